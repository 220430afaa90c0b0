import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { faultsOf } from './looks.ts';
import { start, type Started } from './server.ts';
import { SLACK_WATER } from './pieces.ts';
import { listenToSounds } from './sound.ts';
import { countFrames } from './stillness.ts';
import { keepRead } from './test.ts';
import { keepTold } from './told.ts';

const PORT = 4192;
export const URL = `http://127.0.0.1:${PORT}`;

let folder: string;
let server: Started;
const contexts: BrowserContext[] = [];

const run = () => start('--port', String(PORT), '--data', folder);

/** A server of its own for the rehearsals of one file of tests; the devices of each are closed after it. */
export function ownServer(): void {
  test.beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'anchorbeat-room-'));
    server = await run();
  });
  test.afterEach(async () => {
    await Promise.all(contexts.splice(0).map((context) => context.close()));
  });
  test.afterAll(async () => {
    await server.kill();
    rmSync(folder, { recursive: true, force: true });
  });
}

export const killServer = () => server.kill();

export async function startAgain(): Promise<void> {
  server = await run();
}

export async function deviceOf(
  browser: Browser,
  width: number,
  height: number,
  serviceWorkers: 'allow' | 'block' = 'block',
): Promise<Page> {
  const context = await browser.newContext({
    serviceWorkers,
    baseURL: URL,
    viewport: { width, height },
    hasTouch: width < 500,
    storageState: { cookies: [], origins: [] },
  });
  contexts.push(context);
  await keepRead(context);
  await keepTold(context);
  const page = await context.newPage();
  await listenToSounds(page);
  await countFrames(page);
  return page;
}

/** The director at the podium, in a rehearsal that is open; with its code. */
export async function podiumOf(browser: Browser): Promise<readonly [Page, string]> {
  const page = await deviceOf(browser, 1280, 800);
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the shelf' }).click();
  await expect(page.getByText('53 bars')).toBeVisible();
  await endRehearsals(page);
  await page.goto(`/piece/${SLACK_WATER}/podium`);
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('a');
  await page.getByRole('button', { name: 'Open a rehearsal' }).click();
  return [page, (await page.getByTestId('join-code').textContent()) ?? ''];
}

/** A test has a rehearsal of its own. */
export async function endRehearsals({ request }: Page): Promise<void> {
  for (const { id } of (await (await request.get('/api/ensembles')).json()) as Array<{ id: string }>)
    for (const room of (await (await request.get(`/api/ensembles/${id}/rooms`)).json()) as Array<{
      id: string;
    }>)
      await request.delete(`/api/rooms/${room.id}`);
}

export async function standOf(
  browser: Browser,
  code: string,
  section: string,
  serviceWorkers: 'allow' | 'block' = 'block',
): Promise<Page> {
  const page = await deviceOf(browser, 390, 844, serviceWorkers);
  await page.goto(`/s/${code}`);
  await page.getByRole('button', { name: section, exact: true }).click();
  await page.getByRole('button', { name: 'I am at my stand' }).click();
  await expect(page.getByTestId('state')).toHaveText('Ready');
  await expect(page.getByTestId('lock')).toHaveText(/^locked, within \d ms$/);
  return page;
}

/** Mutes a stand on the device itself, or lets it sound again, by the button that says how it is now. */
export async function muteHere(stand: Page, now: 'Sound' | 'Muted', isMuted: boolean): Promise<void> {
  await stand.getByRole('button', { name: now, exact: true }).click();
  await stand.getByLabel('Muted on this device').setChecked(isMuted);
  expect(await faultsOf(stand, true)).toEqual([]);
  await stand.getByRole('button', { name: 'Done' }).click();
}

/** A podium that goes round and round, so that a run does not end by itself, and a stand that follows it. */
export async function runningOf(browser: Browser): Promise<readonly [Page, Page]> {
  const [podium, code] = await podiumOf(browser);
  const reeds = await standOf(browser, code, 'Reeds');
  await goRound(podium);
  return [podium, reeds];
}

export async function goRound(podium: Page): Promise<void> {
  await podium.keyboard.press('Escape');
  await podium.keyboard.press('l');
  await expect(podium.getByTestId('run-wishes')).toContainText('round');
  await podium.keyboard.press(' ');
}

/** Looks at a stand as on a small phone, a large one, and that on its side, with text as it is and twice as large. */
export async function expectWholeOnPhones(stand: Page, what: string): Promise<void> {
  for (const text of ['100%', '200%']) {
    await stand.evaluate((size) => (document.documentElement.style.fontSize = size), text);
    for (const [width, height] of [
      [360, 640],
      [844, 390],
      [390, 844],
    ] as const) {
      await stand.setViewportSize({ width, height });
      const looked = `${what}, ${width}x${height}, text at ${text}`;
      await expect.poll(() => faultsOf(stand, true), { message: looked }).toEqual([]);
    }
  }
  await stand.evaluate(() => (document.documentElement.style.fontSize = ''));
}
