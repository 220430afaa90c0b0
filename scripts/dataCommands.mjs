import { closeSync, existsSync, mkdirSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ROOT } from './fresh.mjs';
import { loadServer } from './loadServer.mjs';

const REFUSED = 2;

const DATA = { data: { type: 'string', default: 'data' } };

/** Commands on a server's data, by name. Each gives its exit status. */
export const dataCommands = {
  backup: (args) => run(args, 'backup DIR [--data FOLDER]', DATA, backup),
  archive: (args) =>
    run(
      args,
      'archive OUT.zip [--ensemble NAME] [--data FOLDER]',
      { ...DATA, ensemble: { type: 'string' } },
      archive,
    ),
  restore: (args) =>
    run(args, 'restore FILE [--yes] [--data FOLDER]', { ...DATA, yes: { type: 'boolean' } }, restore),
};

async function run(args, usage, options, command) {
  try {
    const { positionals, values } = parseArgs({ args, options, allowPositionals: true });
    if (positionals.length !== 1) throw new Error(`Write ${usage}`);
    const server = loadServer();
    const told = await command(server, resolve(positionals[0]), resolve(ROOT, values.data), values);
    process.stdout.write(`${told}\n`);
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

/** Everything of one ensemble as a zip, also while a server runs. The file is there whole or not at all. */
function archive({ archiveOfFolder }, out, data, { ensemble = null }) {
  const parts = archiveOfFolder(data, ensemble);
  mkdirSync(dirname(out), { recursive: true });
  const unfinished = `${out}.part`;
  const file = openSync(unfinished, 'w');
  try {
    for (const part of parts) writeSync(file, part);
    closeSync(file);
    renameSync(unfinished, out);
  } catch (error) {
    rmSync(unfinished, { force: true });
    throw error;
  }
  return out;
}

/**
 * Brings a backup or an archive back; no server may be running on the folder. In the place of everything comes a backup,
 * and what was there is kept beside it. An archive only adds; what it would change is told, and done with --yes.
 */
async function restore(server, file, data, { yes = false }) {
  if (!server.isArchiveFile(file)) {
    await server.restoreFolder(data, file);
    return `Brought back: ${file}`;
  }
  const preview = await server.restoreArchiveFolder(data, file, { isForReal: yes });
  const lines = server.archiveLines(preview).map((line) => `  ${line}`);
  const done = yes ? 'Brought back:' : 'This would change; nothing was done yet, give --yes to do it:';
  return [done, ...lines].join('\n');
}
