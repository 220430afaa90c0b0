import { expect, test } from '@playwright/test';
import { enter, makePiece, openMap, clicksFrom, savedProof, savedBars } from './pieces.ts';
import { listenToSounds, soundsOf } from './sound.ts';

test('a tempo is worked out from any two, by keys and from drawn notes, and written', async ({ page }) => {
  const id = await makePiece(page.request, 'Built', [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
    {},
    { meter: '6/8' },
    {},
  ]);
  await openMap(page, id);
  await enter(page, 'g', '3');
  await page.keyboard.press('q');
  await expect(page.getByLabel('Old tempo, beats a minute')).toHaveValue('96');
  await expect(page.getByLabel('New tempo, beats a minute')).toHaveText('= 64');
  await page.getByLabel('Note after', { exact: true }).fill('e.');
  await expect(page.getByLabel('New tempo, beats a minute')).toHaveText('= 96');
  await page.getByRole('button', { name: 'Note after: pick a note' }).click();
  await page.getByRole('button', { name: 'no dot' }).click();
  await page.getByRole('button', { name: 'triplet' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('New tempo, beats a minute')).toHaveText('= 42.667, exactly 128/3');
  await page.getByLabel('Work out: Note = note').check();
  await page.getByLabel('New tempo, beats a minute').fill('63');
  await expect(page.getByText('gives 64.0; yours is 1.6 % slower').first()).toBeVisible();
  await page.getByLabel('New tempo, beats a minute').fill('64');
  await expect(page.getByText('exactly', { exact: true })).toBeVisible();
  await page.getByLabel('New tempo, beats a minute').press('Enter');
  expect((await savedBars(page, id))[2]).toEqual({
    meter: '6/8',
    tempo: [{ tempo: 'dotted quarter = 64', equivalence: 'quarter = quarter' }],
  });
  await page.keyboard.press('q');
  const old = page.getByLabel('Old tempo, beats a minute');
  await expect(old).toBeFocused();
  await page.clock.install({ time: 0 });
  await page.clock.pauseAt(60_000);
  for (let tap = 0; tap < 5; tap++) {
    await page.keyboard.press('t');
    await page.clock.runFor(500);
  }
  await expect(old).toHaveValue('120');
  await page.clock.resume();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('a count-off of its own is set, kept with the bar, and heard', async ({ page }) => {
  await listenToSounds(page);
  const id = await makePiece(page.request, 'Counted', [{ meter: '4/4' }, {}, {}, {}]);
  await openMap(page, id);
  await page.keyboard.press('z');
  await page.getByRole('combobox', { name: /^Bars/ }).selectOption('2');
  await page.getByLabel('The last beat stays open, for a breath').check();
  await page.getByLabel('First note').fill('H9');
  await page.getByLabel('First note').press('Enter');
  await expect(page.getByText('"H9" is no note')).toBeVisible();
  expect((await savedBars(page, id))[0]).toEqual({
    meter: '4/4',
    countOff: { bars: 2, breathOnLastBeat: true },
  });
  const plan = clicksFrom(await savedProof(page.request, id), 0);
  expect(plan.filter(({ kind }) => kind.startsWith('countoff'))).toHaveLength(7);
  await page.getByRole('button', { name: /Hear it/ }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true }).last()).toBeVisible();
  await expect.poll(async () => (await soundsOf(page)).length).toBeGreaterThan(7);
  await page.getByRole('button', { name: 'Stop', exact: true }).last().click();
  await page.getByRole('button', { name: 'As usual' }).click();
  expect((await savedBars(page, id))[0]).toEqual({ meter: '4/4' });
});
