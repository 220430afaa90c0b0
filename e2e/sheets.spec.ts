import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { makePiece } from './pieces.ts';
import { test } from './test.ts';

const BARS = [
  {
    meter: '4/4',
    tempo: [{ tempo: 'quarter = 96' }],
    sections: [{ section: 'Bells', does: 'enters' }],
    note: 'softly',
  },
  {},
  { sections: [{ section: 'Bells', does: 'rests' }] },
  { meter: '15/16 as 4+4+4+3' },
  { meter: '4/4', sections: [{ section: 'Bells', does: 'enters', says: 'with the drum' }] },
  {},
] as const;

async function openSheets(page: Page): Promise<void> {
  const id = await makePiece(page.request, 'Paper', BARS);
  await page.goto(`/piece/${id}/handout`);
  await page.getByRole('button', { name: /Sheets to print/ }).click();
  await expect(page.getByRole('list', { name: 'Pages' })).toBeVisible();
}

async function saved(page: Page, act: () => Promise<unknown>) {
  const waiting = page.waitForEvent('download');
  await act();
  const download = await waiting;
  return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
}

test('a section’s sheet is chosen, seen, and saved as PDF by key', async ({ page }) => {
  await openSheets(page);
  await page.getByRole('button', { name: 'Bells', exact: true }).click();
  const sheet = page.getByRole('listitem', { name: 'Page 1 of 1' });
  await expect(sheet.getByText('Bells · counted in', { exact: false })).toBeVisible();
  await expect(sheet.getByText('with the drum')).toBeVisible();
  const { name, bytes } = await saved(page, () => page.keyboard.press('s'));
  expect(name).toBe('Paper-count-sheet-Bells.pdf');
  expect(bytes.subarray(0, 8).toString('latin1')).toBe('%PDF-1.7');
  expect(bytes.toString('latin1')).toMatch(/AtkinsonHyperlegible[\s\S]*%%EOF\s*$/);
});

test('which bars, how they are drawn and on what paper are chosen; what is no bar is marked and changes nothing', async ({
  page,
}) => {
  await openSheets(page);
  const line = page.getByRole('listitem', { name: 'Page 1 of 1' }).locator('g[role=img]');
  await page.getByLabel('From bar').fill('4');
  await page.getByLabel('to bar').fill('5');
  // Until the new sheet is laid out the old one is there, with a line more.
  await expect(line).toHaveCount(1);
  await expect(line).toHaveAttribute('aria-label', /^bar 4, 15\/16[^;]*; bar 5, 4\/4[^;]*$/);
  await page.getByLabel('to bar').fill('99');
  await expect(page.getByLabel('to bar')).toHaveAttribute('aria-invalid', 'true');
  await expect(line).toHaveAttribute('aria-label', /bar 5/);
  await page.getByRole('button', { name: 'sideways' }).click();
  await page.getByRole('button', { name: 'Letter' }).click();
  await expect(page.getByRole('list', { name: 'Pages' }).locator('svg')).toHaveAttribute(
    'viewBox',
    '0 0 792 612',
  );
  await page.reload();
  await expect(page.getByRole('button', { name: 'Letter' })).toHaveAttribute('aria-pressed', 'true');
});

test('every sheet is shown by its key, and printing prints its pages alone', async ({ page }) => {
  await openSheets(page);
  for (const [key, title] of [
    ['2', /^Overview · 6 bars/],
    ['3', /hardest of/],
    ['4', /^Conducting patterns · 2/],
    ['5', /^Errata$/],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('list', { name: 'Pages' }).getByText(title)).toBeVisible();
  }
  const printed = await page.pdf({ preferCSSPageSize: true });
  expect(printed.toString('latin1').match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
  expect(printed.toString('latin1')).toMatch(/\/MediaBox\s*\[0 0 59[45][^\]]*84[12]/);
});

test('the line is saved as a picture, as letters and as dots', async ({ page }) => {
  await openSheets(page);
  const svg = await saved(page, () => page.getByRole('button', { name: 'Picture .svg' }).click());
  expect(svg.name).toBe('Paper-count-sheet-director.svg');
  expect(svg.bytes.toString('utf8')).toMatch(/^<svg xmlns[\s\S]*softly[\s\S]*<\/svg>\s*$/);
  const png = await saved(page, () => page.keyboard.press('g'));
  expect(png.bytes.subarray(1, 4).toString('latin1')).toBe('PNG');
  expect(png.bytes.readUInt32BE(16)).toBe(1920);
});
