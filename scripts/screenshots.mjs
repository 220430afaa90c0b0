import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { openHere } from '../bench/measure.mjs';
import { startApp } from '../bench/server.mjs';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from './chromium.mjs';
import { ROOT } from './fresh.mjs';
import { READ_BEFORE, storeEntries } from './readBefore.mjs';
import { build, install, requireNode } from './prepare.mjs';

const PORT = 4189;
const SLACK_WATER = '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c101';

/** The main views, from the demo: where each is, and what is pressed there first. */
const VIEWS = [
  { name: 'shelf', path: '/', keys: [] },
  {
    name: 'map',
    path: `${SLACK_WATER}/map`,
    keys: ['ArrowRight', 'ArrowRight', 'ArrowRight', 'Shift+ArrowRight'],
  },
  { name: 'podium', path: `${SLACK_WATER}/podium`, keys: ['6', 'Enter', 'Space', 'wait:5600'] },
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
  { name: 'map-count-off', path: '/piece/5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c105/map', keys: ['z', 'wait:600'] },
  { name: 'seams', path: `${SLACK_WATER}/seams`, keys: ['wait:300'] },
  { name: 'seam-carried-over', path: `${SLACK_WATER}/seams?bars=15-15`, keys: ['wait:300'] },
  {
    name: 'seam-ladder',
    path: `${SLACK_WATER}/seams`,
    keys: ['l', 'ArrowRight', 'ArrowRight', 'Space', 'wait:9000'],
  },
  {
    name: 'seam-trainer',
    path: `${SLACK_WATER}/seams?bars=11-11`,
    keys: ['t', 'e', 'e', 'Space', 'wait:8500'],
  },
  { name: 'seam-readiness', path: `${SLACK_WATER}/seams?bars=11-11`, keys: ['h', 'wait:900'] },
  {
    name: 'shelf-import',
    path: '/',
    keys: ['file:demo/from-elsewhere/harbour-steps.musicxml', 'wait:1200'],
  },
  {
    name: 'take',
    path: `${SLACK_WATER}/seams?bars=11-11`,
    keys: ['h', 'wait:900', 'click:button:text-matches("^filled the bar up")', 'wait:900'],
  },
  { name: 'rehearse', path: '/rehearse', keys: ['ArrowDown', 'p', 'wait:600'] },
  { name: 'bench', path: `${SLACK_WATER}/bench?tool=grouping`, keys: ['wait:400'] },
  { name: 'hand-out', path: `${SLACK_WATER}/handout?show=sheets`, keys: ['wait:600'] },
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
/** Those that were named, or all. */
const named = process.argv.slice(2);
for (const view of VIEWS.filter(({ name }) => named.length === 0 || named.includes(name))) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await openHere(page.request, `http://127.0.0.1:${PORT}`);
  await page.addInitScript(storeEntries, READ_BEFORE);
  await page.goto(`http://127.0.0.1:${PORT}${view.path}`);
  await page.waitForTimeout(1200);
  for (const key of view.keys) await act(page, key);
  await page.screenshot({ path: join(ROOT, 'docs/screenshots', `${view.name}.png`) });
  await page.close();
}
if (named.length === 0 || named.includes('room')) await shootRoom();
await browser.close();
app.stop();
rmSync(folder, { recursive: true, force: true });

/** A rehearsal: the podium with what it knows of its stands, and two stands, one resting and one across a seam. */
async function shootRoom() {
  const folderOf = (name) => join(ROOT, 'docs/screenshots', `${name}.png`);
  const podium = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await openHere(podium.request, `http://127.0.0.1:${PORT}`);
  await podium.addInitScript(storeEntries, READ_BEFORE);
  await podium.goto(`http://127.0.0.1:${PORT}${SLACK_WATER}/podium`);
  await podium.getByTestId('big-beat').waitFor();
  await podium.keyboard.press('a');
  await podium.getByRole('button', { name: 'Open a rehearsal' }).click();
  const code = await podium.getByTestId('join-code').textContent();
  const stands = [];
  for (const [section, viewport] of [
    ['Drums', { width: 390, height: 844 }],
    ['Reeds', { width: 844, height: 390 }],
  ]) {
    const context = await browser.newContext({ viewport });
    const stand = await context.newPage();
    await stand.goto(`http://127.0.0.1:${PORT}/s/${code}`);
    await stand.getByRole('button', { name: section, exact: true }).click();
    await stand.getByRole('button', { name: 'I am at my stand' }).click();
    await stand.getByTestId('state').getByText('Ready').waitFor();
    stands.push(stand);
  }
  await podium.getByText('2 stands, all locked').first().waitFor();
  await podium.screenshot({ path: folderOf('together') });
  await podium.keyboard.press('Escape');
  await podium.keyboard.press(' ');
  await podium.waitForTimeout(9000);
  await stands[0].screenshot({ path: folderOf('stand-resting') });
  await stands[1].screenshot({ path: folderOf('stand-sideways') });
  for (const stand of stands) await stand.context().close();
  await podium.close();
}

async function act(page, key) {
  if (key.startsWith('wait:')) await page.waitForTimeout(Number(key.slice(5)));
  else if (key.startsWith('type:')) await page.keyboard.type(key.slice(5));
  else if (key.startsWith('click:')) await page.locator(key.slice(6)).first().click();
  else if (key.startsWith('file:'))
    await page.getByLabel('A file to open').setInputFiles(join(ROOT, key.slice(5)));
  else if (key.startsWith('label:')) {
    const [label, text] = key.slice(6).split('=');
    await page.getByLabel(label, { exact: true }).fill(text);
  } else await page.keyboard.press(key);
}
