import { closeSync, existsSync, mkdirSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { createInterface } from 'node:readline';
import { Writable } from 'node:stream';
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
  password: (args) => run(args, 'password NAME [--data FOLDER]', DATA, password),
};

async function run(args, usage, options, command) {
  try {
    const { positionals, values } = parseArgs({ args, options, allowPositionals: true });
    if (positionals.length !== 1) throw new Error(`Write ${usage}`);
    const server = loadServer();
    const told = await command(server, positionals[0], resolve(ROOT, values.data), values);
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
    resolve(folder),
    `anchorbeat-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}.sqlite`,
  );
  await copyDatabase(database, file);
  return file;
}

/** Everything of one ensemble as a zip, also while a server runs. The file is there whole or not at all. */
function archive({ archiveOfFolder }, outFile, data, { ensemble = null }) {
  const out = resolve(outFile);
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
async function restore(server, named, data, { yes = false }) {
  const file = resolve(named);
  if (!server.isArchiveFile(file)) {
    await server.restoreFolder(data, file);
    return `Brought back: ${file}`;
  }
  const preview = await server.restoreArchiveFolder(data, file, { isForReal: yes });
  const lines = server.archiveLines(preview).map((line) => `  ${line}`);
  const done = yes ? 'Brought back:' : 'This would change; nothing was done yet, give --yes to do it:';
  return [done, ...lines].join('\n');
}

/** Another password for who forgot theirs; no server may be running on the folder. It is asked for, or read from what is piped in. */
async function password({ setPasswordInFolder }, name, data) {
  await setPasswordInFolder(data, name, await askedFor(`New password of ${name}: `));
  return `${name} signs in with the new password now, and was signed out everywhere`;
}

/** One line that is typed, of which nothing is seen. */
function askedFor(question) {
  const { stdin, stderr } = process;
  const nowhere = new Writable({ write: (_text, _encoding, done) => done() });
  const lines = createInterface({ input: stdin, output: nowhere, terminal: stdin.isTTY });
  // Not before what is typed is no longer shown.
  if (stdin.isTTY) stderr.write(question);
  return new Promise((answer) => {
    let typed = '';
    lines.once('line', (line) => {
      typed = line;
      lines.close();
    });
    lines.once('close', () => {
      if (stdin.isTTY) stderr.write('\n');
      answer(typed);
    });
  });
}
