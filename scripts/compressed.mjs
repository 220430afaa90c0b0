import { readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const COMPRESSIBLE = /\.(js|css|html|svg|json|wav|otf)$/;
/** Smaller files fit a packet or two as they are. */
const LEAST_BYTES = 1024;

/** Lays a `.br` and a `.gz` beside every file of a built web app that gets smaller by it, for the server to send. */
export function compressFolder(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) compressFolder(path);
    else if (COMPRESSIBLE.test(entry.name) && statSync(path).size >= LEAST_BYTES) compressFile(path);
    else if (/\.(br|gz)$/.test(entry.name)) rmSync(path);
  }
}

function compressFile(path) {
  const bytes = readFileSync(path);
  const size = { [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length };
  writeFileSync(`${path}.br`, brotliCompressSync(bytes, { params: size }));
  writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
}
