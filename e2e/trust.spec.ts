import { readFileSync } from 'node:fs';
import { expect, type BrowserContext, type Page } from '@playwright/test';
import { allSaved, enter, makePiece, openMap, openShelf, savedPiece, saysOfSaving, visit } from './pieces.ts';
import { expectTold, test } from './told.ts';

/** What may happen to a window at any moment; gives the window that goes on at the same place. */
const TROUBLES: Readonly<Record<string, (page: Page, context: BrowserContext) => Promise<Page>>> = {
  'is closed': async (page, context) => {
    const next = await context.newPage();
    await page.close();
    await next.goto(page.url());
    return next;
  },
  'is loaded again': async (page) => {
    await page.reload();
    return page;
  },
  crashes: async (page, context) => {
    const next = await context.newPage();
    const crashed = page.waitForEvent('crash');
    const devtools = await context.newCDPSession(page);
    // Nobody answers from a window that is gone.
    devtools.send('Page.crash').catch(() => undefined);
    await crashed;
    await next.goto(page.url());
    return next;
  },
  'is duplicated, and the first one closed': async (page) => {
    const [twin] = await Promise.all([
      page.waitForEvent('popup'),
      page.evaluate(() => void window.open(window.location.href)),
    ]);
    await allSaved(twin);
    await enter(twin, 'w', 'written in the twin');
    await page.close();
    await twin.reload();
    return twin;
  },
  'finds no more room in the browser, and is loaded again': async (page, context) => {
    const devtools = await context.newCDPSession(page);
    const origin = new URL(page.url()).origin;
    await devtools.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: 0 });
    await enter(page, 'w', 'written without room');
    await page.unroute('**/revisions');
    await page.reload();
    await devtools.send('Storage.overrideQuotaForOrigin', { origin });
    return page;
  },
  'leaves for another piece and comes back': async (page) => {
    const { pathname } = new URL(page.url());
    await page.keyboard.press('Shift+S');
    await expect(page.locator('main li')).not.toHaveCount(0);
    await page.keyboard.press('1');
    await allSaved(page);
    await visit(page, pathname);
    return page;
  },
};

const ROUNDS_EACH = 6;
const BARS = 12;

for (const [place, [what, happens]] of Object.entries(TROUBLES).entries())
  test(`whatever was called saved or kept is there again when the window ${what}`, async ({ context }) => {
    const below = seededBelow(20_261_128 + place);
    let page = await context.newPage();
    for (let round = 0; round < ROUNDS_EACH; round++) {
      const title = `Trust ${place} ${round}`;
      const id = await makePiece(page.request, title, [
        { meter: '4/4' },
        ...Array.from({ length: BARS - 1 }, () => ({})),
      ]);
      await visit(page, `/piece/${id}/map`);
      await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible();
      await allSaved(page);
      await page.keyboard.press('ArrowRight');
      const promised = await editAtRandom(page, below);
      page = await happens(page, context);
      await page.unroute('**/revisions');
      await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible();
      await allSaved(page);
      const { piece } = await savedPiece(page.request, id);
      expect(piece.bars.map(({ note }) => note)).toEqual(expect.arrayContaining([...promised]));
    }
  });

/** Writes a few words into bars, at times with the server away; gives those that the screen called saved or kept. */
async function editAtRandom(page: Page, below: (limit: number) => number): Promise<readonly string[]> {
  let promised: readonly string[] = [];
  const written: string[] = [];
  const edits = 1 + below(4);
  for (let edit = 0; edit < edits; edit++) {
    if (below(3) === 0) await page.route('**/revisions', (route) => route.abort());
    const word = `word ${edit}`;
    await enter(page, 'w', word);
    await page.keyboard.press('ArrowRight');
    written.push(word);
    const state = page.getByTestId('save-state');
    if (below(2) === 0) await saysOfSaving(page, /^saved|kept in this window/);
    if (/^saved|kept in this window/.test((await state.textContent()) ?? '')) promised = [...written];
  }
  return promised;
}

function seededBelow(start: number): (limit: number) => number {
  let seed = start;
  return (limit) => (seed = (seed * 48_271) % 2_147_483_647) % limit;
}

test('with the browser’s storage full and the server away, the screen says so and closing asks', async ({
  page,
}) => {
  const id = await makePiece(page.request, 'No room', [{ meter: '4/4' }, {}]);
  await page.addInitScript(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    Storage.prototype.setItem = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await openMap(page, id);
  await page.route('**/revisions', (route) => route.abort());
  await enter(page, 'm', '5/8');
  await expect(page.getByTestId('save-state')).toContainText('no room to keep it: leave this window open');
  const asked = page.waitForEvent('dialog');
  await page.close({ runBeforeUnload: true });
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.dismiss();
  await page.unroute('**/revisions');
  await allSaved(page);
  expect((await savedPiece(page.request, id)).piece.bars[0]?.meter).toBe('5/8');
});

test('where the server has no room the work goes on, and is saved when there is', async ({ page }) => {
  const id = await makePiece(page.request, 'Disk full', [{ meter: '4/4' }, {}]);
  await openMap(page, id);
  await page.route('**/revisions', (route) =>
    route.fulfill({
      status: 507,
      contentType: 'application/problem+json',
      body: JSON.stringify({ status: 507, code: 'no-room', title: 'The disk is full', detail: 'Make room.' }),
    }),
  );
  await enter(page, 'm', '5/8');
  await expect(page.getByTestId('save-state')).toContainText('Not saved yet, kept in this window');
  await page.unroute('**/revisions');
  await allSaved(page);
});

test('a screen that meets an error says so, and another place goes on', async ({ page }) => {
  const reported = page.waitForRequest('**/api/reports');
  await page.route('**/api/backups', (route) => route.fulfill({ json: [{ name: 'x', madeAt: 'never' }] }));
  await page.goto('/backups');
  await expect(page.getByRole('heading', { name: 'This screen met an error' })).toBeVisible();
  expect((await reported).postDataJSON()).toMatchObject({ address: '/backups' });
  await page.keyboard.press('Shift+S');
  await expect(page.getByRole('button', { name: 'New piece' })).toBeVisible();
});

test('a backup is made by hand, and going back is asked about first', async ({ page }) => {
  await openShelf(page);
  await page.keyboard.press('b');
  const list = page.getByRole('list', { name: 'Backups, newest first' });
  await expect(page.getByRole('heading', { name: 'Backups' })).toBeVisible();
  await page.keyboard.press('n');
  await expect(list.getByText('made by hand')).not.toHaveCount(0);
  await list.getByRole('button', { name: 'Go back to it' }).first().click();
  await expect(page.getByRole('dialog')).toContainText('What is there now is kept as a backup of its own');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('an ensemble is saved as an archive, which is looked at before it is brought back', async ({ page }) => {
  await page.goto('/backups');
  const ensembles = page.getByRole('list', { name: 'Ensembles' });
  const waiting = page.waitForEvent('download');
  await ensembles.getByRole('link', { name: 'Save its archive' }).first().click();
  const download = await waiting;
  expect(download.suggestedFilename()).toMatch(/\d{4}-\d\d-\d\d\.anchorbeat\.zip$/);
  const bytes = readFileSync(await download.path());
  const input = page.getByLabel('An archive to bring back');
  await input.setInputFiles({ name: 'a.zip', mimeType: 'application/zip', buffer: bytes });
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('This is what would change');
  await expect(dialog.getByRole('list', { name: 'What would change' })).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  const broken = Buffer.from(bytes);
  broken[bytes.length >> 1] = (broken[bytes.length >> 1] ?? 0) ^ 8;
  await input.setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: broken });
  await expectTold(page, /This archive is damaged/);
  await expect(dialog).toHaveCount(0);
});
