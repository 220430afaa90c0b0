import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { startApp } from '../bench/server.mjs';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from './chromium.mjs';
import { ROOT } from './fresh.mjs';
import { build, install, requireNode } from './prepare.mjs';

const PORT = 4189;
const SLACK_WATER = '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c101';
const TAR_AND_TWINE = '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c104/map';

/** The main views, from the demo: where each is, and what is pressed there first. */
const VIEWS = [
  { name: 'shelf', path: '/', keys: [] },
  {
    name: 'map',
    path: `${SLACK_WATER}/map`,
    keys: ['ArrowRight', 'ArrowRight', 'ArrowRight', 'Shift+ArrowRight'],
  },
  { name: 'map-entry', path: `${SLACK_WATER}/map`, keys: ['End', '=', 'type:e3 = s'] },
  {
    name: 'podium-count-off',
    path: `${SLACK_WATER}/podium`,
    keys: ['1', '0', 'Enter', 'Space', 'wait:1500'],
  },
  { name: 'podium', path: `${SLACK_WATER}/podium`, keys: ['6', 'Enter', 'Space', 'wait:5600'] },
  {
    name: 'podium-hold',
    path: '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c105/podium',
    keys: ['1', '9', 'Enter', 'Space', 'wait:9500'],
  },
  { name: 'podium-patterns', path: `${SLACK_WATER}/podium`, keys: ['d', 'wait:400'] },
  {
    name: 'map-count-off',
    path: '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c105/map',
    keys: ['z', 'wait:400'],
  },
  { name: 'shelf-new-piece', path: '/', keys: ['n', 'wait:200', 'type:Skein', 'wait:200'] },
  {
    name: 'map-words',
    path: `${SLACK_WATER}/map`,
    keys: [
      'd',
      'wait:600',
      'Control+End',
      'type:repeat back, 3 times',
      'Enter',
      'type:2 bars of 7/8 as 2+2+2',
      'wait:500',
    ],
  },
  {
    name: 'map-checks',
    path: `${SLACK_WATER}/map`,
    keys: ['c', 'f', 'type:the parts have four', 'wait:300'],
  },
  {
    name: 'map-history',
    path: '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c103/map',
    keys: [
      ...['g', 'type:19', 'Enter', 'm', 'type:9/16 as 2+2+2+3', 'Enter', 'wait:900'],
      ...['t', 'type:eighth = 196', 'Enter', 'wait:900', 'e', 'type:Reeds rest 4', 'Enter', 'wait:900'],
      ...['y', 'wait:700', 'click:aside li:last-child button', 'wait:500'],
    ],
  },
  {
    name: 'map-builder',
    path: `${SLACK_WATER}/map`,
    keys: ['g', 'type:26', 'Enter', 'q', 'wait:200', 'label:Note after=e.', 'wait:300'],
  },
  {
    name: 'map-seam',
    path: `${SLACK_WATER}/map`,
    keys: ['g', 'type:9', 'Enter', 'Shift+ArrowRight', '+', 'wait:300'],
  },
  { name: 'map-whole', path: TAR_AND_TWINE, keys: ['-', '-', '-', 'wait:300'] },
  { name: 'seams', path: `${SLACK_WATER}/seams`, keys: ['wait:300'] },
  { name: 'map-route', path: TAR_AND_TWINE, keys: ['End'] },
];

requireNode();
await install();
await build();
const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-shots-'));
const app = await startApp(folder, PORT);
const browser = await chromium.launch({
  executablePath: CHROMIUM_PATH,
  args: CHROMIUM_ARGS,
});
for (const view of VIEWS) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => localStorage.setItem('anchorbeat.hearingNote', 'read'));
  await page.goto(`http://127.0.0.1:${PORT}${view.path}`);
  await page.waitForTimeout(1200);
  for (const key of view.keys) await act(page, key);
  await page.screenshot({ path: join(ROOT, 'docs/screenshots', `${view.name}.png`) });
  await page.close();
}
await browser.close();
app.stop();
rmSync(folder, { recursive: true, force: true });

async function act(page, key) {
  if (key.startsWith('wait:')) await page.waitForTimeout(Number(key.slice(5)));
  else if (key.startsWith('type:')) await page.keyboard.type(key.slice(5));
  else if (key.startsWith('click:')) await page.locator(key.slice(6)).first().click();
  else if (key.startsWith('label:')) {
    const [label, text] = key.slice(6).split('=');
    await page.getByLabel(label, { exact: true }).fill(text);
  } else await page.keyboard.press(key);
}
