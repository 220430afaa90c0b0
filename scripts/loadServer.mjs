import { existsSync, readFileSync } from 'node:fs';
import Module, { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import { Script } from 'node:vm';
import { ROOT } from './fresh.mjs';

/** The server as it is built: what start script, commands and tests run. */
export const SERVER = join(ROOT, 'apps/server/dist/bundle/index.js');

const BESIDE = /^\.\/.+\.js$/;

/** Where what Node.js makes of a file is kept. */
export const compiledFile = (file) => `${file}.compiled`;

/**
 * Loads the built server, which is written in plain bytes, from what was compiled of it before; another Node.js compiles it anew.
 * Every file of it is named to `onLoaded`, with its script.
 */
export function loadServer(onLoaded = () => undefined) {
  const loaded = new Map();
  return load(SERVER);

  function load(file) {
    const known = loaded.get(file);
    if (known) return known.exports;
    const module = { exports: {} };
    loaded.set(file, module);
    const kept = compiledFile(file);
    const script = new Script(Module.wrap(readFileSync(file, 'latin1')), {
      filename: file,
      cachedData: existsSync(kept) ? readFileSync(kept) : undefined,
    });
    onLoaded(file, script);
    const folder = dirname(file);
    const ofPackages = createRequire(file);
    const require = (name) => (BESIDE.test(name) ? load(resolve(folder, name)) : ofPackages(name));
    const run = script.runInThisContext();
    run.call(module.exports, module.exports, Object.assign(require, ofPackages), module, file, folder);
    return module.exports;
  }
}
