import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SOCKET_PATH } from '@anchorbeat/contract';
import { chromium } from '@playwright/test';
import { PLAIN_RUN, writePiece } from '@anchorbeat/core';
import { io } from 'socket.io-client';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from '../scripts/chromium.mjs';
import { READ_BEFORE, storeEntries } from '../scripts/readBefore.mjs';
import { benchPiece } from './core.mjs';
import { cookieOf } from './measure.mjs';
import { startApp } from './server.mjs';

const PORT = 4189;
const PAGES = 8;
const DRIFT = 50e-6;
/** Each is wrong by up to so much, one way or the other. */
const WRONG_MS = 3000;
const SAME_CLICK_MS = 100;
/** A lost packet is sent anew after about so long. */
const SENT_ANEW_MS = 200;

/** Networks between the pages and the server, each way. */
const NETWORKS = [
  { name: 'on this machine', delayMs: 0, jitterMs: 0, loss: 0, wanted: 2 },
  { name: 'through 40 ± 30 ms, 2 % lost', delayMs: 40, jitterMs: 30, loss: 0.02, wanted: 5 },
  { name: 'through 10 ms there and 60 ms back', delayMs: 10, backMs: 60, jitterMs: 0, loss: 0, wanted: null },
];

/**
 * Eight stands in Chromium, their clocks up to 6 s apart and running up to 50 ppm fast or slow: how far apart they sound the
 * same click, by the audio clocks of their pages, over a run with seams.
 */
export async function benchEightPages(minutes) {
  for (const network of NETWORKS) await eightPages(network, network.wanted === 5 ? minutes : 1);
}

async function eightPages(network, minutes) {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-eight-'));
  const server = await startApp(folder, PORT);
  const url = `http://127.0.0.1:${PORT}`;
  const cookie = await cookieOf(url);
  const ask = async (path, method = 'GET', body) => {
    const headers = { cookie, ...(body && { 'content-type': 'application/json' }) };
    const sent = { method, headers, ...(body && { body: JSON.stringify(body) }) };
    return (await fetch(`${url}/api/${path}`, sent)).json();
  };
  const [{ id: ensembleId }] = await ask('ensembles');
  const pieceId = randomUUID();
  await ask('pieces', 'POST', { id: pieceId, ensembleId, piece: writePiece(benchPiece(300)) });
  const { id: roomId, code } = await ask(`ensembles/${ensembleId}/rooms`, 'POST');
  const browser = await chromium.launch({ executablePath: CHROMIUM_PATH, args: CHROMIUM_ARGS });
  const proxies = [];
  const pages = [];
  try {
    for (let index = 0; index < PAGES; index++) {
      // With a network of their own, half of them have the slower way back only, so that what it costs is seen between pages.
      const isAsymmetric = network.backMs !== undefined && index % 2 === 0;
      const proxy = await slowed(isAsymmetric ? { ...network, backMs: network.delayMs } : network);
      proxies.push(proxy);
      pages.push(await standAt(browser, proxy.address().port, code, index));
    }
    const auth = { path: SOCKET_PATH, auth: { roomId }, extraHeaders: { cookie }, transports: ['websocket'] };
    const director = io(url, auth);
    await once(director, 'connect');
    for (const page of pages) await page.getByText(/^locked, within \d ms$/).waitFor({ timeout: 120_000 });
    await director.emitWithAck('start', {
      runId: randomUUID(),
      pieceId,
      revision: 1,
      title: 'bench',
      settings: { ...PLAIN_RUN, spoken: 'nothing' },
      performed: 0,
    });
    await pages[0].waitForTimeout(minutes * 60_000);
    const heard = [];
    for (const page of pages) heard.push(await trueTimes(page));
    report(network, heard);
    director.disconnect();
  } finally {
    await browser.close();
    for (const proxy of proxies) proxy.close();
    server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

function report({ name, wanted }, heard) {
  const [first, ...others] = heard;
  const apart = first.flatMap((time) => {
    const same = others.map((times) => nearest(times, time));
    const all = [time, ...same];
    const spread = Math.max(...all) - Math.min(...all);
    return spread < SAME_CLICK_MS ? [spread] : [];
  });
  const sorted = apart.sort((a, b) => a - b);
  const at = (share) => (sorted[Math.floor((sorted.length - 1) * share)] ?? Infinity).toFixed(2);
  console.log(
    `${PAGES} pages ${name}: of ${first.length} clicks ${sorted.length} are everywhere, ${at(0.5)} ms apart (median), ${at(0.99)} ms (p99)${wanted === null ? '; half the difference of the two ways cannot be seen by anybody' : `, wanted: under ${wanted} ms`}`,
  );
}

function nearest(times, time) {
  return times.reduce((best, one) => (Math.abs(one - time) < Math.abs(best - time) ? one : best), Infinity);
}

async function standAt(browser, port, code, index) {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.addInitScript(storeEntries, READ_BEFORE);
  const turn = (2 * index) / (PAGES - 1) - 1;
  await page.addInitScript(wrongClock, {
    // A page's clock begins at nothing, and no earlier.
    offsetMs: WRONG_MS * (turn + 1),
    drift: DRIFT * turn,
  });
  await page.goto(`http://127.0.0.1:${port}/s/${code}`);
  await page.getByRole('button', { name: 'Reeds', exact: true }).click();
  await page.getByRole('button', { name: 'I am at my stand' }).click();
  return page;
}

/** Sets the page's clocks wrong, and notes what it sounds against the true one. */
function wrongClock({ offsetMs, drift }) {
  const trueNow = performance.now.bind(performance);
  const wrong = (ms) => ms * (1 + drift) + offsetMs;
  performance.now = () => wrong(trueNow());
  const dateNow = Date.now.bind(Date);
  Date.now = () => dateNow() + offsetMs;
  const stamp = AudioContext.prototype.getOutputTimestamp;
  window.trueNow = trueNow;
  window.clicks = [];
  const offsets = [];
  AudioContext.prototype.getOutputTimestamp = function () {
    const { contextTime, performanceTime } = stamp.call(this);
    return { contextTime, performanceTime: performanceTime > 0 ? wrong(performanceTime) : 0 };
  };
  const { start } = AudioBufferSourceNode.prototype;
  AudioBufferSourceNode.prototype.start = function (when = 0, ...rest) {
    window.audio = this.context;
    // Words begin before their beat; only clicks are compared.
    if (rest.length === 0) window.clicks.push({ when, offset: offsets[offsets.length >> 1] });
    start.call(this, when, ...rest);
  };
  setInterval(() => {
    if (!window.audio) return;
    const { contextTime, performanceTime } = stamp.call(window.audio);
    if (!(contextTime > 0)) return;
    offsets.push(performanceTime - contextTime * 1000);
    if (offsets.length > 21) offsets.shift();
  }, 100);
}

/** When the clicks of a page leave its loudspeaker, in milliseconds of this process; by the quickest of many looks at both clocks. */
async function trueTimes(page) {
  let quickest = Infinity;
  let ahead = 0;
  for (let look = 0; look < 60; look++) {
    const sent = performance.now();
    const theirs = await page.evaluate(() => window.trueNow());
    const took = performance.now() - sent;
    if (took >= quickest) continue;
    quickest = took;
    ahead = sent + took / 2 - theirs;
  }
  const clicks = await page.evaluate(() => window.clicks);
  return clicks.flatMap(({ when, offset }) => (offset === undefined ? [] : [when * 1000 + offset + ahead]));
}

/** A proxy that lets everything through later: each way its delay, now and then as long as a lost packet takes to be sent anew. */
async function slowed({ delayMs, backMs = delayMs, jitterMs, loss }) {
  const proxy = createServer((client) => {
    const server = connect(PORT, '127.0.0.1');
    for (const [from, to, delay] of [
      [client, server, delayMs],
      [server, client, backMs],
    ]) {
      let due = 0;
      from.on('data', (data) => {
        const lost = Math.random() < loss ? SENT_ANEW_MS : 0;
        const wanted = performance.now() + delay + jitterMs * (2 * Math.random() - 1) + lost;
        // What was sent later never comes sooner.
        due = Math.max(due, wanted);
        if (delay === 0) to.write(data);
        else setTimeout(() => to.write(data), due - performance.now());
      });
      from.on('close', () => setTimeout(() => to.destroy(), delay + 100));
      from.on('error', () => to.destroy());
    }
  });
  proxy.listen(0, '127.0.0.1');
  await once(proxy, 'listening');
  return proxy;
}
