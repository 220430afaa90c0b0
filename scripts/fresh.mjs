import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's root folder. */
export const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** The contents of all files under some paths, as one short text that changes when any of them does. */
function fingerprint(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const stat = statSync(path, { throwIfNoEntry: false });
    if (!stat) return;
    if (!stat.isDirectory()) {
      hash.update(`${path}\n`).update(readFileSync(path));
      return;
    }
    for (const name of readdirSync(path).sort()) {
      if (name !== 'node_modules' && name !== 'dist') visit(join(path, name));
    }
  };
  for (const path of paths) visit(join(ROOT, path));
  return hash.digest('hex');
}

/** Runs `work` unless it has run for just these files before and its `result` is still there. */
export async function whenStale(name, paths, result, work) {
  const stampFile = join(ROOT, 'node_modules', '.anchorbeat', name);
  const known = existsSync(stampFile) ? readFileSync(stampFile, 'utf8') : '';
  // What is changed while it works is work for the next time.
  const now = fingerprint(paths);
  if (existsSync(join(ROOT, result)) && known === now) return false;
  await work();
  mkdirSync(dirname(stampFile), { recursive: true });
  writeFileSync(stampFile, now);
  return true;
}
