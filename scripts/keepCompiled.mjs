import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compiledFile, loadServer } from './loadServer.mjs';

/** Starts the built server once, on nothing, and keeps what Node.js compiled of it until it answered. */
const dataFolder = mkdtempSync(join(tmpdir(), 'anchorbeat-built-'));
try {
  const scripts = new Map();
  const { startServer } = loadServer((file, script) => scripts.set(file, script));
  const server = await startServer({ port: 0, dataFolder });
  await fetch(`${server.url}/api/health`);
  for (const [file, script] of scripts) writeFileSync(compiledFile(file), script.createCachedData());
  await server.close();
} finally {
  rmSync(dataFolder, { recursive: true, force: true });
}
process.exit(0);
