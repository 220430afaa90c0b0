import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { allClicks, compilePiece, PLAIN_RUN, runFrom, writePiece } from '@anchorbeat/core';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from '../scripts/chromium.mjs';
import { READ_BEFORE, storeEntries } from '../scripts/readBefore.mjs';
import { benchPiece } from './core.mjs';
import { openHere } from './measure.mjs';
import { startApp } from './server.mjs';

const PORT = 4186;
const SWITCHES = 50;

/**
 * A run in Chromium for so many minutes while the page is kept busy, for a tenth of the time hidden; then a
 * run whose tempo is switched 50 times. Prints what is missing, doubled, or off its due time on the audio clock.
 */
export async function benchLive(minutes) {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-bench-'));
  const app = await startApp(folder, PORT);
  const browser = await chromium.launch({
    executablePath: CHROMIUM_PATH,
    args: CHROMIUM_ARGS,
  });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await openHere(context.request, `http://127.0.0.1:${PORT}`);
    const page = await context.newPage();
    await page.addInitScript(listenInPage);
    await page.addInitScript(storeEntries, READ_BEFORE);
    await longRun(page, minutes);
    await switchedRun(page);
  } finally {
    await browser.close();
    app.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function longRun(page, minutes) {
  const piece = benchPiece(2000);
  await openPodium(page, writePiece(piece));
  await page.keyboard.press('Space');
  await page.evaluate(keepBusy);
  const hiddenMs = minutes * 6000;
  await page.waitForTimeout((minutes * 60_000 - hiddenMs) / 2);
  await page.evaluate(() => (window.isPutAway = true));
  await page.waitForTimeout(hiddenMs);
  await page.evaluate(() => (window.isPutAway = false));
  await page.waitForTimeout((minutes * 60_000 - hiddenMs) / 2);
  const sounds = await page.evaluate(() =>
    window.sounds.filter((sound) => sound.when < window.audio.currentTime),
  );
  await page.keyboard.press('Space');

  const source = { piece, compiled: compilePiece(piece) };
  const clicks = allClicks(source, runFrom(source, 0, { ...PLAIN_RUN, spoken: 'nothing' }));
  const start = sounds[0].when - clicks[0].timeSeconds;
  const misses = sounds.map(({ when }, index) => Math.abs(when - start - clicks[index].timeSeconds));
  const due = clicks.filter(({ timeSeconds }) => start + timeSeconds < sounds.at(-1).when + 0.01);
  const late = sounds.filter(({ when, handedOverAt }) => handedOverAt > when).length;
  print(
    `live, ${minutes} min under load, hidden for ${hiddenMs / 1000} s: clicks heard, due`,
    `${sounds.length}, ${due.length}`,
    'wanted: the same',
  );
  print(
    'the same: farthest from its due audio time',
    `${(Math.max(...misses) * 1000).toFixed(4)} ms`,
    'wanted: under 1 ms',
  );
  print('the same: handed over after their time', String(late), 'wanted: none');
}

async function switchedRun(page) {
  const document = {
    format: 'anchorbeat-piece',
    version: 1,
    title: 'Switched',
    bars: Array.from({ length: 200 }, (_, index) =>
      index ? {} : { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] },
    ),
  };

  await openPodium(page, document);
  await page.keyboard.press('Space');
  await page.waitForTimeout(1500);
  await page.evaluate(keepBusy);
  const percents = [100];
  for (let change = 0; change < SWITCHES; change++) {
    const key = change % 8 < 4 ? ']' : '[';
    percents.push(percents.at(-1) + (key === ']' ? 5 : -5));
    await page.keyboard.press(key);
    await page.waitForTimeout(280);
  }
  const times = await page.evaluate(() =>
    window.sounds
      .filter(({ isCancelled, when }) => !isCancelled && when < window.audio.currentTime)
      .map(({ when }) => when),
  );
  await page.keyboard.press('Space');
  times.sort((a, b) => a - b);
  const paces = [...new Set(percents)].map((percent) => 25 / percent);
  const gaps = times.slice(1).map((time, index) => time - times[index]);
  const off = gaps.map((gap) => Math.min(...paces.map((pace) => Math.abs(pace - gap))));
  print(
    `tempo switched ${SWITCHES} times: farthest a gap is from a beat`,
    `${(Math.max(...off) * 1000).toFixed(4)} ms`,
    'wanted: no gap, no double',
  );
}

async function openPodium(page, document) {
  const url = `http://127.0.0.1:${PORT}`;
  const [{ id: ensembleId }] = await (await page.request.get(`${url}/api/ensembles`)).json();
  const id = randomUUID();
  await page.request.post(`${url}/api/pieces`, { data: { id, ensembleId, piece: document } });
  await page.goto(`${url}/piece/${id}/podium`);
  await page.getByTestId('big-beat').waitFor();
  await page.keyboard.press('s');
  await page.keyboard.press('s');
  await page.evaluate(() => (window.sounds.length = 0));
}

/**
 * In the page: every sound, when it is due and when it was handed over. A headless browser hides no page, so while it is put
 * away timers fire once a second and no frames come, which is how browsers treat a hidden one.
 */
function listenInPage() {
  const { setInterval, requestAnimationFrame } = window;
  window.setInterval = (call, period, ...rest) => {
    let last = 0;
    const gated = (...given) => {
      if (window.isPutAway && performance.now() - last < 1000) return;
      last = performance.now();
      call(...given);
    };
    return setInterval(gated, period, ...rest);
  };
  window.requestAnimationFrame = (call) =>
    requestAnimationFrame((time) => (window.isPutAway ? window.requestAnimationFrame(call) : call(time)));
  window.sounds = [];
  const { start, stop } = AudioBufferSourceNode.prototype;
  const bySource = new WeakMap();
  AudioBufferSourceNode.prototype.start = function (when, ...rest) {
    window.audio = this.context;
    const sound = { when, handedOverAt: this.context.currentTime, isCancelled: false };
    window.sounds.push(sound);
    bySource.set(this, sound);
    start.call(this, when, ...rest);
  };
  AudioBufferSourceNode.prototype.stop = function (when) {
    const sound = bySource.get(this);
    if (sound && sound.when > this.context.currentTime) sound.isCancelled = true;
    stop.call(this, when);
  };
}

/** In the page: most of its thread's time is taken. */
function keepBusy() {
  window.setInterval(() => {
    const end = performance.now() + 70;
    while (performance.now() < end);
  }, 100);
}

function print(name, figure, wanted) {
  console.log(`${name.padEnd(70)} ${figure.padEnd(18)} ${wanted}`);
}
