import { expect } from '@playwright/test';
import { enter, makePiece, openMap, savedBars } from './pieces.ts';
import { test } from './test.ts';

const FOUR_BARS = [{ meter: '4/4' }, {}, {}, {}];

test('undo and redo go all the way back and forth, and are saved like any change', async ({ page }) => {
  const id = await makePiece(page.request, 'Undone', FOUR_BARS);
  await openMap(page, id);
  await enter(page, 'm', '7/8');
  await enter(page, 'r', '2');
  await page.keyboard.press('Delete');
  expect(await savedBars(page, id)).toHaveLength(5);
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  expect(await savedBars(page, id)).toEqual(FOUR_BARS);
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+Shift+z');
  expect(await savedBars(page, id)).toHaveLength(5);
  // Also after the page was loaded again.
  await page.reload();
  await expect(page.locator('[data-bar="0"]')).toBeVisible();
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  expect(await savedBars(page, id)).toEqual(FOUR_BARS);
});

test('a change made just before the window is closed is there when it opens again', async ({ page }) => {
  const id = await makePiece(page.request, 'Closed early', FOUR_BARS);
  await openMap(page, id);
  await page.route('**/revisions', (route) => route.abort());
  await enter(page, 'm', '5/8');
  await expect(page.getByTestId('save-state')).toContainText('Not saved yet, kept in this window');
  await page.unroute('**/revisions');
  await page.reload();
  expect((await savedBars(page, id))[0]?.meter).toBe('5/8');
});

test('what two windows did to different bars is put together without asking', async ({ page, context }) => {
  const id = await makePiece(page.request, 'Together', FOUR_BARS);
  const other = await context.newPage();
  await openMap(page, id);
  await openMap(other, id);
  await enter(other, 'm', '3/4');
  await savedBars(other, id);
  await page.keyboard.press('End');
  await enter(page, 'm', '2/4');
  expect((await savedBars(page, id)).map((bar) => bar.meter)).toEqual(['3/4', '4/4', undefined, '2/4']);
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('two windows on one bar are told, and neither loses anything', async ({ page, context }) => {
  const id = await makePiece(page.request, 'Shared', FOUR_BARS);
  const other = await context.newPage();
  await openMap(page, id);
  await openMap(other, id);
  await enter(other, 'm', '3/4');
  await other.keyboard.press('End');
  await enter(other, 'm', '5/4');
  await savedBars(other, id);

  await enter(page, 'm', '2/4');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('changed in another window');
  await expect(dialog).toContainText('bar 1 is now 3/4, was 4/4');
  await expect(dialog).toContainText('bar 1 is now 2/4, was 4/4');
  await page.getByRole('button', { name: 'Take mine' }).click();
  // What only the other window changed stays.
  expect((await savedBars(page, id)).map((bar) => bar.meter)).toEqual(['2/4', '4/4', undefined, '5/4']);
  const theirs = await page.request.get(`/api/pieces/${id}/revisions/2`);
  expect(await theirs.json()).toMatchObject({
    piece: { bars: [{ meter: '3/4' }, { meter: '4/4' }, {}, {}] },
  });

  await other.keyboard.press('Home');
  await enter(other, 'w', 'from the other');
  await other.getByRole('button', { name: 'Take both' }).click();
  expect((await savedBars(other, id))[0]).toMatchObject({ meter: '2/4', note: 'from the other' });

  await enter(page, 'w', 'from here');
  await page.getByRole('button', { name: 'Take theirs' }).click();
  await savedBars(page, id);
  await enter(page, 'm', '9/8');
  await savedBars(page, id);
  await enter(other, 'm', '6/8');
  await other.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(other.getByRole('heading', { name: 'Shared (my copy)' })).toBeVisible();
  expect((await savedBars(other, new URL(other.url()).pathname.split('/')[2] as string))[0]?.meter).toBe(
    '6/8',
  );
  expect(await savedBars(page, id)).toHaveLength(4);
});
