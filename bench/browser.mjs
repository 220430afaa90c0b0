import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { writePiece } from '@anchorbeat/core';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from '../scripts/chromium.mjs';
import { READ_BEFORE, storeEntries } from '../scripts/readBefore.mjs';
import { benchPiece, fullPiece } from './core.mjs';
import { openHere, show, summary } from './measure.mjs';
import { startApp } from './server.mjs';

const PORT = 4188;

/** What a hand feels, measured in Chromium on a piece of 2,000 bars. */
export async function benchBrowser() {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-bench-'));
  const app = await startApp(folder, PORT);
  const browser = await chromium.launch({
    executablePath: CHROMIUM_PATH,
    args: CHROMIUM_ARGS,
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await openHere(page.request, `http://127.0.0.1:${PORT}`);
    await page.addInitScript(listenInPage);
    await page.addInitScript(storeEntries, READ_BEFORE);
    const id = await putPiece(page, benchPiece(2000));
    await page.goto(`http://127.0.0.1:${PORT}/piece/${id}/map`);
    await page.locator('[data-bar="0"]').waitFor();
    show(
      'key to paint: the selection moves a bar',
      await keyToPaint(page, 'ArrowRight', 30),
      'wanted: under 50 ms',
    );
    show('longest task while scrolling through', await longestTasks(page), 'wanted: under 50 ms');
    show('stop key to the last sound taken back', await stopTimes(page), 'wanted: under 50 ms');
    const fullId = await putPiece(page, fullPiece(2000));
    await page.goto(`http://127.0.0.1:${PORT}/piece/${fullId}/map`);
    await page.locator('[data-bar="0"]').waitFor();
    const { compile, handedOver } = await editTimes(page);
    show('edit one bar of 2,000 (6,000 performed): compiled in the worker', compile, 'wanted: under 10 ms');
    show('the same, sent, compiled and handed back to the page', handedOver);
    const longId = await putPiece(page, benchPiece(300));
    for (const [name, pieceId] of [
      ['the demo', DEMO],
      ['300 bars', longId],
    ])
      await showDensity(browser, name, pieceId);
    await showFirstVisits(browser);
    await showOpenings(browser);
  } finally {
    await browser.close();
    app.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

const DEMO = '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c101';
const SIZES = ['360x640', '390x844', '844x390', '768x1024', '1024x768', '1280x800', '1920x1080'];

/** How many bars the map shows as it opens, and how much of the width its systems fill, at every size. */
async function showDensity(browser, name, pieceId) {
  for (const size of SIZES) {
    const [width, height] = size.split('x').map(Number);
    const page = await browser.newPage({ viewport: { width, height } });
    await openHere(page.request, `http://127.0.0.1:${PORT}`);
    await page.goto(`http://127.0.0.1:${PORT}/piece/${pieceId}/map`);
    await page.locator('[data-bar="0"]').waitFor();
    const { bars, filled } = await page.evaluate(() => {
      const page = document.querySelector('[role="listbox"]').parentElement.getBoundingClientRect();
      const systems = [...document.querySelectorAll('[role="listbox"] svg')];
      const shares = systems.map((system) => {
        const inside = [...system.querySelectorAll('[data-bar]')].map((bar) => bar.getBoundingClientRect());
        return (inside.at(-1).right - inside[0].left) / (page.right - inside[0].left - 16);
      });
      const seen = [...document.querySelectorAll('[data-bar]')].filter(
        (bar) => bar.getBoundingClientRect().bottom <= page.bottom,
      );
      return { bars: seen.length, filled: shares.reduce((a, b) => a + b, 0) / shares.length };
    });
    console.log(
      `${name} at ${size}: ${bars} bars on opening, ${Math.round(100 * filled)} % of the width filled`,
    );
    await page.close();
  }
}

/** Bytes that come over the line on the first visit of a browser. */
async function showFirstVisits(browser) {
  for (const [name, path, shows] of [
    ['the shelf', '/', 'h2'],
    ['a podium with sound', `/piece/${DEMO}/podium`, '[data-testid="big-beat"]'],
  ]) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await openHere(context.request, `http://127.0.0.1:${PORT}`);
    const page = await context.newPage();
    await page.addInitScript(storeEntries, READ_BEFORE);
    const session = await context.newCDPSession(page);
    let bytes = 0;
    session.on('Network.loadingFinished', ({ encodedDataLength }) => (bytes += encodedDataLength));
    await session.send('Network.enable');
    await page.goto(`http://127.0.0.1:${PORT}${path}`);
    await page.locator(shows).first().waitFor();
    if (name.includes('sound')) {
      await page.keyboard.press('Space');
      await page.locator('[data-testid="bead"]').waitFor();
    }
    await page.waitForLoadState('networkidle');
    console.log(`first visit to ${name}: ${Math.round(bytes / 1000)} kB`);
    await context.close();
  }
}

/** From an address to its screen with what it is about, each time in a browser that was never here. */
async function showOpenings(browser) {
  for (const [name, path, shows] of [
    ['the shelf', '/', 'main li'],
    ['a map', `/piece/${DEMO}/map`, '[data-bar="0"]'],
    ['the seams', `/piece/${DEMO}/seams`, 'main h2'],
    ['a podium', `/piece/${DEMO}/podium`, '[data-testid="big-beat"]'],
    ['the plan', '/rehearse', '[aria-label="Order of work"] li'],
  ]) {
    const times = [];
    for (let run = 0; run < 12; run++) {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      await openHere(context.request, `http://127.0.0.1:${PORT}`);
      const page = await context.newPage();
      await page.addInitScript(storeEntries, READ_BEFORE);
      await page.goto(`http://127.0.0.1:${PORT}${path}`, { waitUntil: 'commit' });
      const seen = await page.waitForFunction(
        (selector) => document.querySelector(selector) && performance.now(),
        shows,
      );
      times.push(await seen.jsonValue());
      await context.close();
    }
    show(`from the address to ${name}`, summary(times));
  }
}

async function putPiece(page, piece) {
  const url = `http://127.0.0.1:${PORT}/api/pieces`;
  const [{ ensembleId }] = await (await page.request.get(url)).json();
  const id = randomUUID();
  await page.request.post(url, { data: { id, ensembleId, piece: writePiece(piece) } });
  return id;
}

/** Bars far apart get another meter, typed; how long the worker compiled, and how long the page waited for it. */
async function editTimes(page) {
  await page.evaluate(() => (window.compiles.length = 0));
  for (let run = 0; run < 30; run++) {
    await page.keyboard.press('g');
    await page.keyboard.type(String(4 + ((run * 397) % 100) * 20));
    await page.keyboard.press('Enter');
    await page.keyboard.type(run % 2 ? '9/16' : '5/16');
    await page.keyboard.press('Enter');
    await page.waitForFunction((count) => window.compiles.length > count, run, { timeout: 10_000 });
  }
  const compiles = await page.evaluate(() => window.compiles);
  return {
    compile: summary(compiles.map(({ compileMilliseconds }) => compileMilliseconds)),
    handedOver: summary(compiles.map(({ waitedMilliseconds }) => waitedMilliseconds)),
  };
}

async function keyToPaint(page, key, times) {
  const results = [];
  for (let run = 0; run < times; run++) {
    await page.evaluate(() => (window.paintedAfter = undefined));
    await page.keyboard.press(key);
    const painted = await page.waitForFunction(() => window.paintedAfter, undefined, { timeout: 5000 });
    results.push(await painted.jsonValue());
  }
  return summary(results);
}

async function longestTasks(page) {
  const longest = await page.evaluate(async () => {
    const tasks = [0];
    const observer = new PerformanceObserver((list) =>
      tasks.push(...list.getEntries().map((entry) => entry.duration)),
    );
    observer.observe({ type: 'longtask' });
    const scroller = document.querySelector('[role="listbox"]').parentElement;
    for (let step = 0; step < 120; step++) {
      scroller.scrollTop += 400;
      await new Promise(requestAnimationFrame);
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
    observer.disconnect();
    return Math.max(...tasks);
  });
  return summary([longest]);
}

/** In the page: how long after a key the next frame was painted, when sounds were last taken back, how long compiles took. */
function listenInPage() {
  window.compiles = [];
  const { postMessage } = Worker.prototype;
  Worker.prototype.postMessage = function (...message) {
    const sentAt = performance.now();
    const listen = ({ data }) => {
      if (data.id !== message[0].id) return;
      this.removeEventListener('message', listen);
      const { compileMilliseconds } = data;
      window.compiles.push({ compileMilliseconds, waitedMilliseconds: performance.now() - sentAt });
    };
    this.addEventListener('message', listen);
    postMessage.apply(this, message);
  };
  const { stop } = AudioBufferSourceNode.prototype;
  AudioBufferSourceNode.prototype.stop = function (when) {
    window.lastStop = performance.now();
    stop.call(this, when);
  };
  const listen = (event) => {
    window.lastKey = event.timeStamp;
    requestAnimationFrame(() => {
      const channel = new MessageChannel();
      channel.port1.onmessage = () => (window.paintedAfter = performance.now() - event.timeStamp);
      channel.port2.postMessage(0);
    });
  };
  addEventListener('keydown', listen, { capture: true });
}

async function stopTimes(page) {
  const results = [];
  for (let run = 0; run < 5; run++) {
    await page.keyboard.press('Home');
    await page.keyboard.press('Space');
    await page.waitForTimeout(1500);
    await page.keyboard.press('Space');
    results.push(await page.evaluate(() => window.lastStop - window.lastKey));
  }
  return summary(results);
}
