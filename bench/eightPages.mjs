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
import { steadyLoudspeaker } from '../scripts/loudspeaker.mjs';
import { READ_BEFORE, storeEntries } from '../scripts/readBefore.mjs';
import { benchPiece } from './core.mjs';
import { cookieOf } from './measure.mjs';
import { startApp } from './server.mjs';

const PORT = 4189;
const PAGES = 8;
const DRIFT = 50e-6;
/** A page's sound has a crystal of its own besides. */
const CRYSTAL_PPM = 30;
/** Each is wrong by up to so much, one way or the other. */
const WRONG_MS = 3000;
const SAME_CLICK_MS = 100;
/** A lost packet is sent anew after about so long. */
const SENT_ANEW_MS = 200;

/** Networks between the pages and the server, each way. */
const NETWORKS = [
  { name: 'on this machine', delayMs: 0, jitterMs: 0, loss: 0, wanted: 2 },
  { name: 'through 40 ± 30 ms, 2 % lost', delayMs: 40, jitterMs: 30, loss: 0.02, wanted: 5 },
  { name: 'every other through 10 ms there and 60 ms back', delayMs: 10, backMs: 60, jitterMs: 0, loss: 0 },
];

/**
 * Eight stands in Chromium, their clocks up to 6 s apart and running up to 50 ppm fast or slow, their loudspeakers' clocks too: how
 * far apart they sound the same click, over a run with seams of so many minutes through a bad network, of one minute else.
 */
export async function benchEightPages(minutes) {
  for (const network of NETWORKS) await eightPages(network, network.loss > 0 ? minutes : 1);
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
    for (const [index, page] of pages.entries()) heard.push(await trueTimes(page, index));
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
  const clicks = first
    .map((time) => [time, ...others.map((times) => nearest(times, time))].sort((a, b) => a - b))
    .filter((times) => times.at(-1) - times[0] < SAME_CLICK_MS);
  const farthest = clicks.map((times) => times.at(-1) - times[0]);
  const ofTwo = clicks.flatMap((times) =>
    times.flatMap((time, index) => times.slice(index + 1).map((other) => other - time)),
  );
  const at = (values, share) =>
    ([...values].sort((a, b) => a - b)[Math.floor((values.length - 1) * share)] ?? Infinity).toFixed(2);
  const aim = wanted
    ? `wanted: under ${wanted} ms`
    : 'half the difference of two ways cannot be seen by anybody';
  console.log(
    `${PAGES} pages ${name}: ${clicks.length} of ${first.length} clicks are everywhere, two of them ${at(ofTwo, 0.5)} ms apart (median), ${at(ofTwo, 0.99)} ms (p99), the two farthest ${at(farthest, 0.5)} and ${at(farthest, 0.99)}; ${aim}`,
  );
}

function nearest(times, time) {
  return times.reduce((best, one) => (Math.abs(one - time) < Math.abs(best - time) ? one : best), Infinity);
}

const crystalPpm = (index) => (index % 2 ? CRYSTAL_PPM : -CRYSTAL_PPM);

async function standAt(browser, port, code, index) {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.addInitScript(storeEntries, READ_BEFORE);
  const turn = (2 * index) / (PAGES - 1) - 1;
  // A page's clock begins at nothing, and no earlier.
  await page.addInitScript(wrongClock, { offsetMs: WRONG_MS * (turn + 1), drift: DRIFT * turn });
  await page.addInitScript(steadyLoudspeaker, { fasterPpm: crystalPpm(index) });
  await page.addInitScript(noteClicks);
  await page.goto(`http://127.0.0.1:${port}/s/${code}`);
  await page.getByRole('button', { name: 'Reeds', exact: true }).click();
  await page.getByRole('button', { name: 'I am at my stand' }).click();
  return page;
}

/** Sets the page's clocks wrong; `window.trueMs` says of one of its moments when that was on the clock which all pages share. */
function wrongClock({ offsetMs, drift }) {
  const trueNow = performance.now.bind(performance);
  performance.now = () => trueNow() * (1 + drift) + offsetMs;
  const dateNow = Date.now.bind(Date);
  Date.now = () => dateNow() + offsetMs;
  window.trueMs = (ms) => performance.timeOrigin + (ms - offsetMs) / (1 + drift);
}

/** Notes when each click of the page is due on its sound's clock. Words begin before their beat, and are left out. */
function noteClicks() {
  const { start } = AudioBufferSourceNode.prototype;
  window.clicks = [];
  AudioBufferSourceNode.prototype.start = function (when = 0, ...rest) {
    window.audio = this.context;
    if (rest.length === 0) window.clicks.push(when);
    start.call(this, when, ...rest);
  };
}

/** When the clicks of a page leave its loudspeaker, in milliseconds of the clock which all pages share. */
function trueTimes(page, index) {
  return page.evaluate((ppm) => {
    const { contextTime, performanceTime } = window.audio.getOutputTimestamp();
    const msASecond = 1000 / (1 + ppm / 1e6);
    return window.clicks.map((when) => window.trueMs(performanceTime + (when - contextTime) * msASecond));
  }, crystalPpm(index));
}

/** A proxy that lets everything through later: each way its delay, now and then as long as a lost packet takes to be sent anew. */
async function slowed({ delayMs, backMs = delayMs, jitterMs, loss }) {
  const proxy = createServer({ noDelay: true }, (client) => {
    const server = connect({ port: PORT, host: '127.0.0.1', noDelay: true });
    for (const [from, to, delay] of [
      [client, server, delayMs],
      [server, client, backMs],
    ]) {
      let before = Promise.resolve();
      // What was sent later never comes sooner.
      const later = (then) => {
        const lost = Math.random() < loss ? SENT_ANEW_MS : 0;
        const dueMs = performance.now() + delay + jitterMs * (2 * Math.random() - 1) + lost;
        before = before.then(() => sleep(dueMs - performance.now())).then(then);
      };
      from.on('data', (data) => (delay === 0 ? to.write(data) : later(() => to.write(data))));
      from.on('close', () => later(() => to.destroy()));
      from.on('error', () => to.destroy());
    }
  });
  proxy.listen(0, '127.0.0.1');
  await once(proxy, 'listening');
  return proxy;
}

/** Resolves after so many milliseconds, at once where they are gone. */
function sleep(ms) {
  return ms < 1 ? undefined : new Promise((resolve) => setTimeout(resolve, ms));
}
