import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseArgs } from 'node:util';
import { ROOT } from './fresh.mjs';

const REFUSED = 2;

/** Commands on a server's data, by name. Each gives its exit status. */
export const dataCommands = {
  backup: (args) => run(args, 'backup DIR [--data FOLDER]', backup),
  restore: (args) => run(args, 'restore FILE [--data FOLDER]', restore),
};

async function run(args, usage, command) {
  try {
    const { positionals, values } = parseArgs({
      args,
      options: { data: { type: 'string', default: 'data' } },
      allowPositionals: true,
    });
    if (positionals.length !== 1) throw new Error(`Write ${usage}`);
    const server = await import(pathToFileURL(join(ROOT, 'apps/server/dist/index.js')).href);
    process.stdout.write(`${await command(server, resolve(positionals[0]), resolve(ROOT, values.data))}\n`);
    return 0;
  } catch (error) {
    process.stderr.write(`${error.message}\n`);
    return REFUSED;
  }
}

/** A whole copy of the database, also while a server runs on it. */
async function backup({ copyDatabase }, folder, data) {
  const database = join(data, 'anchorbeat.sqlite');
  if (!existsSync(database)) throw new Error(`There is no database in ${data}: name its folder with --data`);
  const file = join(
    folder,
    `anchorbeat-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}.sqlite`,
  );
  await copyDatabase(database, file);
  return file;
}

/** Brings a backup back; what is there now is kept beside it. No server may be running on the folder. */
async function restore({ restoreFolder }, file, data) {
  await restoreFolder(data, file);
  return `Brought back: ${file}`;
}
