import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writePiece } from '@anchorbeat/core';
import { ROOT } from '../scripts/fresh.mjs';
import { benchPiece } from './core.mjs';
import { cookieOf, show, summary } from './measure.mjs';

const PORT = 4187;

/** Starts the application as `npm start` does; resolves with how long it took and how to stop it. */
export function startApp(dataFolder, port = PORT, env = {}) {
  const begin = performance.now();
  const child = spawn(
    process.execPath,
    [join(ROOT, 'scripts/start.mjs'), '--port', String(port), '--data', dataFolder],
    { env: { ...process.env, ...env } },
  );
  return new Promise((resolve, reject) => {
    child.stdout.on('data', (data) => {
      if (String(data).includes('is ready'))
        resolve({
          milliseconds: performance.now() - begin,
          pid: child.pid,
          stop: () => child.kill('SIGKILL'),
        });
    });
    child.stderr.on('data', (data) => reject(new Error(String(data))));
  });
}

export async function benchServer() {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-bench-'));
  (await startApp(folder)).stop();
  const starts = [];
  for (let run = 0; run < 5; run++) {
    const started = await startApp(folder);
    starts.push(started.milliseconds);
    started.stop();
  }
  show('second start, nothing stale', summary(starts), 'wanted: under 5,000 ms');

  const app = await startApp(folder);
  const url = `http://127.0.0.1:${PORT}/api/pieces`;
  const cookie = await cookieOf(`http://127.0.0.1:${PORT}`);
  const post = (path, body) =>
    fetch(`${url}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie },
      body: JSON.stringify(body),
    });
  const [{ ensembleId }] = await (await fetch(url, { headers: { cookie } })).json();
  const id = randomUUID();
  const piece = writePiece(benchPiece(2000));
  await post('', { id, ensembleId, piece });
  const saves = [];
  for (let revision = 1; revision <= 20; revision++) {
    const begin = performance.now();
    const answer = await post(`/${id}/revisions`, { id: randomUUID(), basedOnRevision: revision, piece });
    if (answer.status !== 201) throw new Error(`a save was answered with ${answer.status}`);
    saves.push(performance.now() - begin);
  }
  show('save 2,000 bars, until acknowledged', summary(saves));
  app.stop();
  rmSync(folder, { recursive: true, force: true });
}
