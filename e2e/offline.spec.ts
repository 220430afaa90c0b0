import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { SLACK_WATER, allSaved, enter, openMap, savedBars } from './pieces.ts';
import { start, type Started } from './server.ts';
import { test } from './test.ts';

const PORT = 4199;
const baseURL = `http://127.0.0.1:${PORT}`;

// One server at a time at the address whose answers are kept.
test.describe.configure({ mode: 'serial' });

let server: Started | null = null;
let folder = '';
test.beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'anchorbeat-offline-'));
});
test.afterEach(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

test('without a server the app opens with what was used last, and what is written then is saved when it is back', async ({
  browser,
}) => {
  const run = () => start('--port', String(PORT), '--data', folder);
  server = await run();
  const context = await browser.newContext({
    baseURL,
    serviceWorkers: 'allow',
    storageState: { cookies: [], origins: [] },
  });
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Slack Water' })).toBeVisible();
  // A first look at the shelf loads nothing for later.
  expect(
    await page.evaluate(() => navigator.serviceWorker.getRegistrations().then(({ length }) => length)),
  ).toBe(0);
  await openMap(page, SLACK_WATER);
  await enter(page, 'w', 'written with a server');
  await allSaved(page);
  await expect(page.locator('html[data-offline="kept"]')).toHaveCount(1);
  const isSaved = page.waitForResponse(`**/api/pieces/${SLACK_WATER}/revisions`);
  await enter(page, 'w', 'written with a server, kept');
  await isSaved;

  // What was saved a moment ago is there, whether or not its answer could still be kept.
  await server.kill();
  await page.reload();
  await expect(page.getByText('written with a server, kept').first()).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await enter(page, 'w', 'written without one');
  await expect(page.getByTestId('save-state')).toContainText('kept in this window');
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Slack Water' })).toBeVisible();
  await page.goto(`/piece/${SLACK_WATER}/podium`);
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.goto(`/piece/${SLACK_WATER}/map`);
  await expect(page.getByTestId('save-state')).toContainText('kept in this window');

  server = await run();
  await allSaved(page);
  const notes = (await savedBars(page, SLACK_WATER)).map(({ note }) => note);
  expect(notes).toEqual(expect.arrayContaining(['written with a server, kept', 'written without one']));

  // The answer that is kept is the newest by then, and nothing is held besides.
  await expect(page.locator('html[data-offline="kept"]')).toHaveCount(1);
  expect(await page.evaluate(keptAnswer, `/api/pieces/${SLACK_WATER}`)).toContain('written without one');
  await expect.poll(() => page.evaluate(countDrafts)).toBe(0);
  await context.close();
});

test('whoever signs out leaves nothing in the browser of what was read here, with or without a server', async ({
  browser,
}) => {
  server = await start('--port', String(PORT), '--data', folder);
  const context = await browser.newContext({
    baseURL,
    serviceWorkers: 'allow',
    storageState: { cookies: [], origins: [] },
  });
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Slack Water' })).toBeVisible();
  await openMap(page, SLACK_WATER);
  await expect(page.locator('html[data-offline="kept"]')).toHaveCount(1);
  const answers = () =>
    page.evaluate(async () => {
      const kept = (await caches.has('anchorbeat-answers'))
        ? await (await caches.open('anchorbeat-answers')).keys()
        : [];
      return kept.map(({ url }) => new URL(url).pathname).filter((path) => path.startsWith('/api/pieces'));
    });
  expect(await answers()).toContain(`/api/pieces/${SLACK_WATER}`);
  const other = await context.newPage();
  await openMap(other, SLACK_WATER);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Slack Water' })).toBeVisible();
  await page.keyboard.press('p');
  await page.getByRole('button', { name: 'sign out' }).first().click();
  for (const window of [page, other])
    await expect(window.getByRole('button', { name: 'Open the shelf' })).toBeVisible();
  await expect.poll(answers).toEqual([]);
  await other.close();
  await server.kill();
  await page.reload();
  await page.goto(`/piece/${SLACK_WATER}/map`);
  await expect(page.getByRole('button', { name: 'Open the shelf' })).toBeVisible();
  await expect(page.getByText('Slack Water')).toHaveCount(0);
  await context.close();
});

/** In the page: what is kept of the answer at an address. */
async function keptAnswer(path: string): Promise<string> {
  const answer = await (await caches.open('anchorbeat-answers')).match(path);
  return answer ? answer.text() : 'nothing';
}

/** In the page: of how many pieces unsaved work is held. */
function countDrafts(): Promise<number> {
  return new Promise((resolve, reject) => {
    const opening = indexedDB.open('anchorbeat');
    opening.onerror = () => reject(new Error('the database does not open'));
    opening.onsuccess = () => {
      const counting = opening.result.transaction('drafts').objectStore('drafts').count();
      counting.onsuccess = () => resolve(counting.result);
    };
  });
}
