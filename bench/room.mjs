import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { SOCKET_PATH } from '@anchorbeat/contract';
import { PLAIN_RUN, writePiece } from '@anchorbeat/core';
import { io } from 'socket.io-client';
import { SimulatedStand, trueServerMs } from '../scripts/simulatedStand.mjs';
import { benchPiece } from './core.mjs';
import { cookieOf, showUndisturbed, stolenTicks } from './measure.mjs';
import { startApp } from './server.mjs';

const PORTS = [4186, 4187];
const REDIS_PORT = 4188;
const REDIS = '/usr/bin/redis-server';
const STANDS = 200;
const STARTS = 100;

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** A room full of simulated stands, of one process and of two: how near they are, how soon a start is everywhere, what a save takes meanwhile. */
export async function benchRoom() {
  await fullRoom(PORTS.slice(0, 1), {});
  if (!existsSync(REDIS)) {
    console.log('two processes: not measured, there is no redis-server here');
    return;
  }
  const redis = spawn(REDIS, ['--port', String(REDIS_PORT), '--bind', '127.0.0.1', '--save', ''], {
    stdio: 'ignore',
  });
  console.log('two processes over Redis, every other stand at each:');
  await fullRoom(PORTS, { ANCHORBEAT_REDIS_URL: `redis://127.0.0.1:${REDIS_PORT}` });
  redis.kill();
}

async function fullRoom(ports, env) {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-room-'));
  const servers = [];
  for (const port of ports) servers.push(await startApp(folder, port, env));
  const urls = ports.map((port) => `http://127.0.0.1:${port}`);
  const [url] = urls;
  const cookie = await cookieOf(url);
  const ask = async (path, method = 'GET', body) => {
    const headers = { cookie, ...(body && { 'content-type': 'application/json' }) };
    const answer = await fetch(`${url}/api/${path}`, {
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
  const memory = () => servers.reduce((sum, { pid }) => sum + memoryOf(pid), 0);
  const before = memory();
  const stands = [];
  for (let index = 0; index < STANDS; index++) {
    const stand = new SimulatedStand(urls[(index >> 2) % urls.length], {
      ...(index % 4 === 0 && { delayMs: 40, jitterMs: 60, lossPercent: 2 }),
      offsetMs: (Math.random() - 0.5) * 6000,
      drift: (Math.random() - 0.5) * 100e-6,
    });
    await stand.join(code, 'Reeds', '');
    stands.push(stand);
  }
  const director = io(url, {
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
  const saver = new Worker(new URL('./saveWorker.mjs', import.meta.url), { workerData: { url, cookie } });
  const reaches = [];
  const saves = [];
  for (let start = 0; start < STARTS; start++) {
    const runId = randomUUID();
    const stolenBefore = stolenTicks();
    const began = trueServerMs();
    saver.postMessage({
      path: `pieces/${pieceId}/revisions`,
      body: JSON.stringify({ id: randomUUID(), basedOnRevision: start + 1, piece }),
    });
    const [answer, [saved]] = await Promise.all([
      director.emitWithAck('start', {
        runId,
        pieceId,
        revision: 1,
        title: 'bench',
        settings: PLAIN_RUN,
        performed: 0,
      }),
      once(saver, 'message'),
    ]);
    if (saved.status !== 201) throw new Error(`a save was answered with ${saved.status}`);
    saves.push(saved);
    if (!answer.ok) throw new Error(answer.detail);
    const lastOf = () =>
      Math.max(...near.map(({ reached }) => (reached?.id === runId ? reached.atMs - began : Infinity)));
    for (let tries = 0; lastOf() === Infinity && tries < 100; tries++) await wait(5);
    reaches.push({ milliseconds: lastOf(), stolen: stolenTicks() - stolenBefore });
    await wait(300);
  }
  showUndisturbed(`a start reaches ${near.length} stands`, reaches, 'wanted: under 100 ms');
  showUndisturbed('a save of 300 bars meanwhile', saves, 'wanted: under 50 ms (p99)');
  console.log(`memory of the server: ${((memory() - before) / STANDS).toFixed(0)} kB a stand`);
  await saver.terminate();
  for (const stand of stands) stand.close();
  director.disconnect();
  for (const server of servers) server.stop();
  rmSync(folder, { recursive: true, force: true });
}

function memoryOf(pid) {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0);
}
