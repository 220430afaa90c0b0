import { expect, type Page } from '@playwright/test';
import {
  SLACK_WATER,
  allSaved,
  clicksFrom,
  enter,
  makePiece,
  makePieceOf,
  openMap,
  savedBars,
  savedPiece,
  savedProof,
} from './pieces.ts';
import { expectShown, keepShown } from './shown.ts';
import {
  audioClock,
  audioGoesOn,
  followBead,
  forgetSounds,
  heardSounds,
  listenToSounds,
  soundsOf,
} from './sound.ts';
import { expectTold, test } from './told.ts';
import type { RunClick } from '@anchorbeat/core';

/** Every sound so far is the plan's next click, at the sample nearest to its time. Gives how many there were. */
async function expectClicksOf(page: Page, plan: readonly RunClick[]): Promise<number> {
  const sounds = await heardSounds(page);
  const { sampleRate } = await audioClock(page);
  const start = sounds[0]?.whenSeconds ?? NaN;
  sounds.forEach((sound, index) => {
    const due = start + (plan[index]?.timeSeconds ?? NaN);
    expect(Math.abs(sound.whenSeconds - due) * sampleRate).toBeLessThanOrEqual(1);
    expect(sound.whenSeconds).toBeGreaterThanOrEqual(sound.handedOverAt);
  });
  return sounds.length;
}

/** Waits until so many sounds were handed over, of a run that lasts so long until then. */
async function soundsReach(page: Page, count: number, lastsSeconds = 0): Promise<void> {
  const timeout = lastsSeconds * 1000 + 60_000;
  await expect.poll(async () => (await heardSounds(page)).length, { timeout }).toBeGreaterThanOrEqual(count);
}

test('a director opens, edits, hears, stops, starts elsewhere and finds everything saved', async ({
  page,
}) => {
  await listenToSounds(page);
  // Others look at the piece as it comes: a copy is edited.
  const { piece } = await savedPiece(page.request, SLACK_WATER);
  const id = await makePieceOf(page.request, { ...piece, title: 'Edited at will' });
  await page.goto('/');
  await page.getByRole('heading', { name: 'Edited at will' }).click();
  await expect(page).toHaveURL(`/piece/${id}/map`);
  await allSaved(page);
  await expect(page.getByRole('button', { name: /true to time/ })).toBeVisible();

  await page.keyboard.press('End');
  await enter(page, 'b', '3 of 7/8 as 2+2+3');
  await page.keyboard.press('End');
  await enter(page, '=', 'e = s');
  await page.keyboard.press('Home');
  await enter(page, 'p', 'q');
  await page.keyboard.press('ArrowRight');
  await enter(page, 't', 'q. = 90');
  await page.keyboard.press('ArrowRight');
  await enter(page, 'm', '5/8 3+2');
  const bars = await savedBars(page, id);
  expect(bars).toHaveLength(56);
  expect(bars[0]).toMatchObject({ pickup: '1/4' });
  expect(bars[1]).toMatchObject({ tempo: [{ tempo: 'dotted quarter = 90' }] });
  expect(bars[2]).toMatchObject({ meter: '5/8 as 3+2' });
  expect(bars[53]).toMatchObject({ meter: '7/8 as 2+2+3' });
  expect(bars[55]).toMatchObject({ tempo: [{ equivalence: 'eighth = sixteenth' }] });

  const proof = await savedProof(page.request, id);
  const plan = clicksFrom(proof, 0);
  await page.keyboard.press('Home');
  const countOffWord = '[data-testid="count-off-word"]';
  await keepShown(page, countOffWord);
  await page.keyboard.press('Space');
  await expectShown(page, countOffWord, /^\d$/m);
  await expect(page.getByTestId('count-off-word')).toHaveCount(0);
  await expectBeadOnBeats(page, plan);
  expect(await expectClicksOf(page, plan)).toBeGreaterThan(12);
  await page.getByRole('button', { name: 'Stop' }).click();

  // From the last fifth on to its end: what lies between is looked at sample by sample elsewhere.
  await forgetSounds(page);
  await enter(page, 'g', '45');
  await page.keyboard.press('Space');
  const toEnd = clicksFrom(proof, 45);
  await soundsReach(page, toEnd.length, toEnd.at(-1)!.timeSeconds);
  await expect(page.getByRole('button', { name: 'Count me in' })).toBeVisible();
  expect(await expectClicksOf(page, toEnd)).toBe(toEnd.length);

  await forgetSounds(page);
  await enter(page, 'g', '10');
  await page.keyboard.press('Space');
  await soundsReach(page, 5);
  await expectClicksOf(page, clicksFrom(proof, 10));
  await page.keyboard.press('Space');
  const { seconds } = await audioClock(page);
  const pending = (await soundsOf(page)).filter((sound) => sound.whenSeconds > seconds);
  expect(pending.every((sound) => sound.isCancelled)).toBe(true);

  await page.reload();
  await allSaved(page);
  await expect(page.getByText('56 bars')).toBeVisible();
  expect(await savedBars(page, id)).toEqual(bars);
});

/** The bead is on the line when a beat is heard, and up in the air half way between. */
async function expectBeadOnBeats(page: Page, plan: readonly RunClick[]): Promise<void> {
  const start = (await heardSounds(page))[0]?.whenSeconds ?? NaN;
  const beats = plan.map((click) => start + click.timeSeconds);
  const distance = (seconds: number) => Math.min(...beats.map((beat) => Math.abs(beat - seconds)));
  const frames: Awaited<ReturnType<typeof followBead>> = [];
  const landed = () => frames.filter((frame) => distance(frame.seconds) < 0.012);
  const flying = () => frames.filter((frame) => distance(frame.seconds) > 0.15);
  // Where the machine is busy few frames are drawn: it is looked until some fell on beats and some between.
  do frames.push(...(await followBead(page, 6000)));
  while (landed().length === 0 || flying().length <= 5);
  const lineY = Math.max(...frames.map((frame) => frame.y));
  for (const frame of landed()) expect(lineY - frame.y).toBeLessThan(10);
  for (const frame of flying()) expect(lineY - frame.y).toBeGreaterThan(8);
}

test('a page blocked for two seconds misses no click and delays none', async ({ page }) => {
  await listenToSounds(page);
  await openMap(page, '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c102');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('count-off-word')).toBeHidden();
  for (let round = 0; round < 3; round++) {
    await page.evaluate(() => {
      const end = performance.now() + 2000;
      while (performance.now() < end);
    });
    await audioGoesOn(page, 0.6);
  }
  const plan = clicksFrom(await savedProof(page.request, '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c102'), 0);
  expect(await expectClicksOf(page, plan)).toBeGreaterThan(15);
  await page.keyboard.press('Space');
});

test('the podium counts in from a typed bar, shows the beat and the next seam, and stops', async ({
  page,
}) => {
  await listenToSounds(page);
  const id = '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c103';
  await openMap(page, id);
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.type('11');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Bar 11')).toBeVisible();
  await expect(page.getByTestId('next-seam')).toContainText('next bar');
  const [beat, title, next] = ['[data-testid="big-beat"]', 'h1', '[data-testid="next-seam"]'];
  await keepShown(page, beat, title, next);
  await page.keyboard.press('Space');
  await expectShown(page, title, /^Bar 1[2-9]$/m);
  // Counted off, then bar by bar, beat by beat; a page that got no time for a beat shows the next.
  await expectShown(page, beat, /1\n2\n[^]*1\n2\n3/);
  await expectShown(page, next, /3\/4/);
  expect(await expectClicksOf(page, clicksFrom(await savedProof(page.request, id), 10))).toBeGreaterThan(5);
  const box = await page.getByTestId('big-beat').boundingBox();
  expect(box?.height).toBeGreaterThan(200);
  await page.keyboard.press('Space');
  await page.keyboard.type('gzz');
  await page.keyboard.press('Enter');
  await expectTold(page, /There is no bar and no rehearsal mark zz/);
  await page.keyboard.press('Shift+M');
  await expect(page.getByRole('heading', { name: 'Ebb Count' })).toBeVisible();
});

test('ramps, holds, repeats and endings are typed on the map and sound as the core has them', async ({
  page,
}) => {
  await listenToSounds(page);
  const id = await makePiece(page.request, 'Everything', [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] },
    ...Array.from({ length: 5 }, () => ({})),
  ]);
  await openMap(page, id);
  await enter(page, 's', '|:');
  await page.keyboard.press('ArrowRight');
  await enter(page, 't', 'rit to half as fast on 3');
  await page.keyboard.press('ArrowRight');
  await enter(page, 's', 'ending 1, :|');
  await page.keyboard.press('ArrowRight');
  await enter(page, 's', 'ending 2');
  await enter(page, 't', 'a tempo');
  await enter(page, 'h', '2 beats on 2');
  await page.keyboard.press('ArrowRight');
  await enter(page, 'm', '7/8 2+2+3');
  await enter(page, 'u', '7');
  await enter(page, 'n', 'q q e e');
  const bars = await savedBars(page, id);
  expect(bars.slice(0, 5)).toMatchObject([
    { startsRepeat: true },
    { tempo: [{ at: '1/2', term: 'rit.', ramp: 'even per beat to half as fast' }] },
    { ending: '1', endsRepeat: 2 },
    { ending: '2', tempo: [{ returns: 'a tempo' }], holds: [{ at: '1/4', length: '2 beats' }] },
    { meter: '7/8 as 2+2+3', pulse: 'in 7', rhythm: 'q q e e' },
  ]);
  await expect(page.getByRole('button', { name: /2 to look at/ })).toBeVisible();
  await page.keyboard.press('c');
  await expect(page.getByText('The notes of bar 5 are one eighth too short for 7/8')).toBeVisible();
  await page.keyboard.press('i');
  await page.keyboard.type('a joke of the composer');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /1 to look at/ })).toBeVisible();

  const plan = clicksFrom(await savedProof(page.request, id), 0);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('big-beat')).toBeVisible();
  // It stands there for two seconds.
  const place = '.podium-head';
  await keepShown(page, place);
  await page.keyboard.press('Space');
  await expectShown(page, place, /second time/);
  await expect(page.getByText('count me in')).toBeVisible({
    timeout: plan.at(-1)!.timeSeconds * 1000 + 60_000,
  });
  expect(await expectClicksOf(page, plan)).toBe(plan.length);
});
