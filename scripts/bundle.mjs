import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT } from './fresh.mjs';
import { runOrStop } from './run.mjs';
import { SERVER } from './loadServer.mjs';

const COMPILED = join(ROOT, 'apps/server/dist');
const BUNDLE = dirname(SERVER);

/** They are compiled for a machine, or begin threads and load files that stand beside them. */
const LEFT_OUT = ['better-sqlite3', 'piscina', 'libflacjs'];

/**
 * It looks whether an older package has two classes by loading the package a second time; the one here has not got them.
 * Its own file, without looking.
 */
const OLDER_CLASSES = {
  name: 'classes of an older package',
  transform: {
    filter: { id: /@nestjs\/typeorm\/dist\/common\/typeorm-compat\.js$/ },
    handler: () => 'export const Connection = undefined; export const AbstractRepository = undefined;',
  },
};

/**
 * Puts the compiled server and its packages into a few files, and what Node.js makes of them beside them. Loading some two
 * thousand, and then compiling a few, took most of the time until the server answered.
 */
export async function bundleServer() {
  const { rolldown } = await import('rolldown');
  rmSync(BUNDLE, { recursive: true, force: true });
  const bundle = await rolldown({
    input: {
      index: join(COMPILED, 'index.js'),
      fileWorker: join(COMPILED, 'files/fileWorker.js'),
    },
    platform: 'node',
    transform: { define: { 'import.meta.url': 'bundleUrl' } },
    external: LEFT_OUT.map((name) => new RegExp(`^${name}(/|$)`)),
    plugins: [OLDER_CLASSES],
    onLog: (level, log, handle) => {
      if (level === 'warn' && isOfPackage(log.id ?? log.loc?.file ?? '')) return;
      handle(level, log);
    },
  });
  // Entities are known by the names of their classes.
  await bundle.write({
    dir: BUNDLE,
    // Modules of the other kind can be run from compiled code only behind a flag.
    format: 'cjs',
    dynamicImportInCjs: false,
    banner: "const bundleUrl = require('node:url').pathToFileURL(__filename).href;",
    keepNames: true,
    sourcemap: true,
  });
  await bundle.close();
  for (const name of readdirSync(BUNDLE).filter((name) => name.endsWith('.js')))
    writePlain(join(BUNDLE, name));
  writeFileSync(join(BUNDLE, 'package.json'), '{ "type": "commonjs" }\n');
  await runOrStop(
    process.execPath,
    ['scripts/keepCompiled.mjs'],
    'The server that was built does not start: see the messages above.',
  );
}

/** Letters that a byte does not hold are written as their numbers: a file of bytes is read in a quarter of the time. */
function writePlain(file) {
  const escaped = (letter) => `\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}`;
  writeFileSync(file, readFileSync(file, 'utf8').replace(/[^\0-\x7f]/g, escaped), 'latin1');
}

/** What packages are warned of is theirs. */
function isOfPackage(file) {
  return file.includes('node_modules');
}
