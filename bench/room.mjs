import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SOCKET_PATH } from '@anchorbeat/contract';
import { PLAIN_RUN, writePiece } from '@anchorbeat/core';
import { io } from 'socket.io-client';
import { SimulatedStand, trueServerMs } from '../scripts/simulatedStand.mjs';
import { benchPiece } from './core.mjs';
import { cookieOf, show, summary } from './measure.mjs';
import { startApp } from './server.mjs';

const PORT = 4186;
const URL = `http://127.0.0.1:${PORT}`;
const STANDS = 200;
const STARTS = 10;

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** A room full of simulated stands: how near they are, how soon a start is everywhere, and what a save takes meanwhile. */
export async function benchRoom() {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-room-'));
  const server = await startApp(folder, PORT);
  const cookie = await cookieOf(URL);
  const ask = async (path, method = 'GET', body) => {
    const headers = { cookie, ...(body && { 'content-type': 'application/json' }) };
    const answer = await fetch(`${URL}/api/${path}`, {
      method,
      headers,
      ...(body && { body: JSON.stringify(body) }),
    });
    return answer.json();
  };
  const [{ id: ensembleId }] = await ask('ensembles');
  const pieceId = randomUUID();
  const piece = writePiece(benchPiece(300));
  await ask('pieces', 'POST', { id: pieceId, ensembleId, piece });
  const { id: roomId, code } = await ask(`ensembles/${ensembleId}/rooms`, 'POST');
  const before = memoryOf(server.pid);
  const stands = [];
  for (let index = 0; index < STANDS; index++) {
    const stand = new SimulatedStand(URL, {
      ...(index % 4 === 0 && { delayMs: 40, jitterMs: 60, lossPercent: 2 }),
      offsetMs: (Math.random() - 0.5) * 6000,
      drift: (Math.random() - 0.5) * 100e-6,
    });
    await stand.join(code, 'Reeds', '');
    stands.push(stand);
  }
  const director = io(URL, {
    path: SOCKET_PATH,
    auth: { roomId },
    extraHeaders: { cookie },
    transports: ['websocket'],
  });
  await new Promise((resolve) => director.once('connect', resolve));
  await wait(45_000);
  const near = stands.filter((_, index) => index % 4 !== 0);
  const far = stands.filter((_, index) => index % 4 === 0);
  for (const [name, group] of [
    ['on this machine', near],
    ['through 40 ± 30 ms, 2 % lost', far],
  ]) {
    const misses = group.map((stand) => stand.missMs());
    const apart = Math.max(...misses) - Math.min(...misses);
    const sorted = misses.map(Math.abs).sort((a, b) => a - b);
    console.log(
      `${STANDS} stands, ${name}: off by ${sorted[sorted.length >> 1].toFixed(2)} ms (median), ${sorted[Math.floor(sorted.length * 0.99)].toFixed(2)} ms (p99), ${apart.toFixed(2)} ms apart at most; ${group.filter((stand) => stand.locked).length} of ${group.length} locked`,
    );
  }
  const reaches = [];
  const saves = [];
  for (let start = 0; start < STARTS; start++) {
    const runId = randomUUID();
    const began = trueServerMs();
    const saving = performance.now();
    const [answer] = await Promise.all([
      director.emitWithAck('start', {
        runId,
        pieceId,
        revision: 1,
        title: 'bench',
        settings: PLAIN_RUN,
        performed: 0,
      }),
      ask(`pieces/${pieceId}/revisions`, 'POST', {
        id: randomUUID(),
        basedOnRevision: start + 1,
        piece,
      }).then(() => saves.push(performance.now() - saving)),
    ]);
    if (!answer.ok) throw new Error(answer.detail);
    await wait(600);
    reaches.push(
      Math.max(...near.map((stand) => (stand.reached?.id === runId ? stand.reached.atMs - began : Infinity))),
    );
  }
  show(`a start reaches ${near.length} stands`, summary(reaches), 'wanted: under 100 ms');
  show('a save of 300 bars meanwhile', summary(saves), 'wanted: under 50 ms');
  console.log(`memory of the server: ${((memoryOf(server.pid) - before) / STANDS).toFixed(0)} kB a stand`);
  for (const stand of stands) stand.close();
  director.disconnect();
  server.stop();
  rmSync(folder, { recursive: true, force: true });
}

function memoryOf(pid) {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0);
}
