import { readdirSync, rmSync, statSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const COMPRESSIBLE = /\.(js|css|html|svg|json|wav|otf)$/;
/** Smaller files fit a packet or two as they are. */
const LEAST_BYTES = 1024;
/** The last step to 11 takes two to three times as long for one byte in a hundred. */
const QUALITY = 10;
/** Sound takes as long at step 10 as all else together; few ask for it, and never for the page to be there. */
const QUALITY_OF_SOUND = 9;

const toBrotli = promisify(brotliCompress);
const toGzip = promisify(gzip);

/** Lays a `.br` and a `.gz` beside every file of a built web app that gets smaller by it, for the server to send. */
export async function compressFolder(folder) {
  const entries = readdirSync(folder, { withFileTypes: true, recursive: true }).filter((entry) =>
    entry.isFile(),
  );
  const paths = entries.map((entry) => join(entry.parentPath, entry.name));
  for (const path of paths) if (/\.(br|gz)$/.test(path)) rmSync(path);
  await Promise.all(
    paths
      .filter((path) => COMPRESSIBLE.test(path) && statSync(path).size >= LEAST_BYTES)
      .map((path) => compressFile(path)),
  );
}

async function compressFile(path) {
  const bytes = await readFile(path);
  const params = {
    [constants.BROTLI_PARAM_QUALITY]: path.endsWith('.wav') ? QUALITY_OF_SOUND : QUALITY,
    [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length,
  };
  await Promise.all([
    toBrotli(bytes, { params }).then((packed) => writeFile(`${path}.br`, packed)),
    toGzip(bytes, { level: 9 }).then((packed) => writeFile(`${path}.gz`, packed)),
  ]);
}
