import { seamDetails } from '@anchorbeat/core';
import { expect, test } from '@playwright/test';
import { makePiece, openMap, proofOf } from './pieces.ts';

test('the worst seam stands first with its numbers, and its drill goes round counted off', async ({
  page,
}) => {
  const id = await makePiece(page.request, 'Seamed', [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] },
    {},
    {},
    { meter: '15/16 as 4+4+4+3' },
    { meter: '4/4' },
    {},
    { meter: '6/8', tempo: [{ equivalence: 'eighth = eighth' }] },
    {},
    {},
  ]);
  await openMap(page, id);
  await page.keyboard.press('Shift+E');
  await expect(page.getByRole('heading', { name: /^\d seams$/ })).toBeVisible();
  const { piece, compiled } = await proofOf(page.request, id);
  const scores = compiled.seams.map(({ difficulty }) => difficulty.score).sort((a, b) => b - a);
  const list = page.getByLabel('Seams', { exact: true }).getByRole('listitem');
  expect((await list.locator('[title^="Difficulty"]').allTextContents()).map(Number)).toEqual(scores);
  const worst = [...compiled.seams].sort((a, b) => b.difficulty.score - a.difficulty.score)[0]!;
  const details = seamDetails(piece, compiled.timeline, worst);
  const card = page.getByLabel('The seam', { exact: true });
  await expect(card).toContainText(`${Math.round(details.pulseBefore.milliseconds)} ms`);
  for (const { says } of details.traps) await expect(card.getByText(says, { exact: false })).toBeVisible();

  await page.keyboard.press('-');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.waitForTimeout(4500);
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: /Run this seam/ })).toBeVisible();
  await page.keyboard.press('o');
  const labels = await list.locator('.numeral.block').allTextContents();
  expect(labels).toEqual([...compiled.seams].map(({ performed }) => `bar ${performed + 1}`));
  await page.keyboard.press('k');
  await page.keyboard.press('k');
  await page.keyboard.press('k');
  await expect(page.getByRole('button', { name: 'k odd bar' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(
    page
      .getByText('Bar 4', { exact: true })
      .or(page.getByText('Bar 5', { exact: true }))
      .first(),
  ).toBeVisible();
});
