import type { BarDocument } from '@anchorbeat/core';
import { expect, type Page } from '@playwright/test';
import { expectLongPiece, LONG_PIECE_CHANGES } from './longPiece.ts';
import { allSaved, enter, makePiece, openMap, savedBars } from './pieces.ts';
import { test } from './test.ts';

const fourFour = (count: number): BarDocument[] =>
  Array.from({ length: count }, (_, index) => (index === 0 ? { meter: '4/4' } : {}));

/** Counts every key, so that the test can tell how much typing a piece is. */
function countedKeys(page: Page) {
  let keys = 0;
  const press = async (...pressed: string[]) => {
    for (const key of pressed) await page.keyboard.press(key);
    keys += pressed.length;
  };
  const entry = async (key: string, text: string) => {
    await press(key);
    await expect(page.locator('input')).toBeFocused();
    await page.keyboard.press('Control+A');
    await page.keyboard.type(text);
    keys += text.length;
    await press('Enter');
    await expect(page.locator('input')).toHaveCount(0);
  };
  return { press, entry, total: () => keys };
}

test('a piece of 120 bars is entered with the keyboard alone and lasts exactly what the file lasts', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Ropewalk' })).toBeVisible();
  const { press, entry, total } = countedKeys(page);
  await press('n');
  await page.keyboard.type('Long Quay');
  for (const [label, text] of [
    ['Printed tempo', 'q = 104'],
    ['Bars', '16'],
    ['Pickup', 'q'],
  ] as const) {
    while (
      !(await page.getByLabel(label, { exact: true }).evaluate((input) => input === document.activeElement))
    )
      await press('Tab');
    await page.keyboard.press('Control+A');
    await page.keyboard.type(text);
  }
  await press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Long Quay' })).toBeVisible();
  const id = /piece\/([^/]+)/.exec(page.url())?.[1] ?? '';
  for (const { count, meter } of LONG_PIECE_CHANGES) {
    await press('End');
    await entry('b', `${count} of ${meter.replace(' as ', ' ')}`);
  }
  const at = async (number: string, key: string, text: string) => {
    await entry('g', number);
    await entry(key, text);
  };
  await at('9', 's', '|:');
  await at('15', 's', 'ending 1, :|');
  await at('16', 's', 'ending 2');
  await at('25', '=', 'e = e');
  await at('46', 't', 'q. = 69');
  await at('74', '=', 'q. = q');
  await at('100', 't', '88');
  await at('116', 't', '120');
  await allSaved(page);

  await expectLongPiece(page, id);
  test.info().annotations.push({ type: 'keys', description: String(total()) });
  expect(total()).toBeLessThan(900);
});

test('in words: a fault is told where it stands, the line shows what would be, and what is not said stays', async ({
  page,
}) => {
  const id = await makePiece(page.request, 'Worded', [
    { meter: '4/4', note: 'lift', tempo: [{ tempo: 'quarter = 96' }] },
    { sections: [{ section: 'Bells', does: 'rests' }] },
    {},
  ]);
  await openMap(page, id);
  await page.keyboard.press('d');
  const editor = page.getByRole('textbox', { name: /The piece in words/ });
  await expect(editor).toBeFocused();
  await expect(editor).toContainText('3 bars of 4/4');
  await page.keyboard.press('Control+End');
  await page.keyboard.type('last 2 bars 2 more tims');
  await expect(page.getByLabel('What is wrong')).toContainText('"last 2 bars 2 more tims" is not understood');
  await expect(page.locator('.cm-lintRange-error')).toHaveText('last 2 bars 2 more tims');
  await page.keyboard.press('Backspace');
  await page.keyboard.type('es');
  await expect(page.getByText('Not taken in yet')).toBeVisible();
  await expect(page.locator('[data-bar="6"]')).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type('mark Z');
  await page.keyboard.press('Enter');
  await page.keyboard.type('bar of 7/8 as 2+2+3, beaten in 7');
  await expect(page.getByText('added')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('The words and the line say the same')).toBeVisible();
  expect(await savedBars(page, id)).toEqual([
    { meter: '4/4', note: 'lift', tempo: [{ tempo: 'quarter = 96' }] },
    { sections: [{ section: 'Bells', does: 'rests' }] },
    {},
    {},
    {},
    {},
    {},
    { meter: '7/8 as 2+2+3', rehearsalMark: 'Z', pulse: 'in 7' },
  ]);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('panel-words')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  expect(await savedBars(page, id)).toHaveLength(3);
});

test('in words: a line is completed from what can begin one', async ({ page }) => {
  const id = await makePiece(page.request, 'Completed', fourFour(4));
  await openMap(page, id);
  await page.keyboard.press('d');
  await expect(page.getByRole('textbox', { name: /The piece in words/ })).toBeFocused();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('repeat b');
  await expect(page.locator('.cm-tooltip-autocomplete')).toContainText('repeat back');
  await page.locator('.cm-tooltip-autocomplete li').first().click();
  await expect(page.locator('.cm-line').last()).toHaveText(/^repeat back ?$/);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('The words and the line say the same')).toBeVisible();
  expect((await savedBars(page, id))[3]).toEqual({ endsRepeat: 2 });
});

test('sections, rests and words are typed; bars move by key and by their grip', async ({ page }) => {
  const id = await makePiece(page.request, 'Sectioned', [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
    {},
    { meter: '3/4' },
    { meter: '4/4' },
    {},
    {},
    {},
  ]);
  await openMap(page, id);
  await page.keyboard.press('Escape');
  await page.keyboard.press('ArrowRight');
  await enter(page, 'e', 'Bells rest 4');
  await enter(page, 'w', 'drums alone');
  await page.keyboard.press('End');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  await enter(page, 'x', '');
  await expect(page.locator('svg text').filter({ hasText: /^3$/ }).first()).toBeVisible();
  await enter(page, 'g', '3');
  await page.keyboard.press('<');
  await expect(page.getByText('Bar 3 moved before bar 2').first()).toBeVisible();
  const dragged = page.locator('[data-grip] rect');
  const target = page.locator('[data-bar="0"]');
  const [from, to] = [await dragged.boundingBox(), await target.boundingBox()];
  await page.mouse.move(from!.x + 8, from!.y + 8);
  await page.mouse.down();
  await page.mouse.move(to!.x + 60, to!.y + 60, { steps: 4 });
  await page.mouse.move(to!.x + 10, to!.y + 60, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('Bar 2 moved before bar 1').first()).toBeVisible();
  expect(await savedBars(page, id)).toEqual([
    { meter: '3/4' },
    { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
    { note: 'drums alone', sections: [{ section: 'Bells', does: 'rests' }] },
    {},
    { rhythm: 'rw' },
    { rhythm: 'rw', sections: [{ section: 'Bells', does: 'enters' }] },
    { rhythm: 'rw' },
  ]);
});
