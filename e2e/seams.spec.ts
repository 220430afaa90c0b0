import {
  drillOnRung,
  drillRunMaybe,
  phraseAround,
  PLAIN_DRILL,
  PLAIN_LADDER,
  printedBpmMaybe,
  rungsOf,
  clicksIn,
  runFrom,
  type Proof,
  seamDetails,
  seamPlace,
  sectionsOf,
} from '@anchorbeat/core';
import type { RunResponse } from '@anchorbeat/contract';
import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { makePiece, makePieceOf, openMap, savedProof } from './pieces.ts';
import { audioGoesOn, forgetSounds, heardSounds, listenToSounds } from './sound.ts';
import { test } from './test.ts';

test('the worst seam stands first with its numbers, and its drill goes round counted off', async ({
  page,
}) => {
  await listenToSounds(page);
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
  const { piece, compiled } = await savedProof(page.request, id);
  const scores = compiled.seams.map(({ difficulty }) => difficulty.score).sort((a, b) => b - a);
  const list = page.getByLabel('Seams', { exact: true }).getByRole('listitem');
  expect((await list.locator('[title^="Difficulty"]').allTextContents()).map(Number)).toEqual(scores);
  const worst = [...compiled.seams].sort((a, b) => b.difficulty.score - a.difficulty.score)[0]!;
  const details = seamDetails({ piece, compiled }, worst);
  const card = page.getByLabel('The seam', { exact: true });
  await expect(card).toContainText(`${Math.round(details.pulseBefore.milliseconds)} ms`);
  for (const { says } of details.traps) await expect(card.getByText(says, { exact: false })).toBeVisible();

  await page.keyboard.press('-');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await audioGoesOn(page, 4.5);
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: /Run this seam/ })).toBeVisible();
  await page.keyboard.press('o');
  await page.keyboard.press('o');
  const labels = await list.locator('.numeral.block').allTextContents();
  expect(labels).toEqual([...compiled.seams].map(({ performed }) => `bar ${performed + 1}`));
  // From kind to kind of those the piece has.
  const kind = page.getByRole('button', { name: /^of which kind/ });
  for (let step = 0; step < 8 && !/odd bar/.test(await kind.innerText()); step++)
    await page.keyboard.press('k');
  await expect(page.getByRole('button', { name: 'of which kind: odd bar' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(
    page
      .getByText('Bar 4', { exact: true })
      .or(page.getByText('Bar 5', { exact: true }))
      .first(),
  ).toBeVisible();
});

/** A rung is left as soon as what sounds in its first seconds has been handed over. */
const LOOKED_AT_SECONDS = 2.5;

test('a ladder is climbed from the worst seam, and the log has every rung', async ({ page }) => {
  await listenToSounds(page);
  const document = JSON.parse(readFileSync('demo/slack-water.anchorbeat.json', 'utf8')) as object;
  const id = await makePieceOf(page.request, { ...document, title: 'Ladder' });
  const proof = await savedProof(page.request, id);
  await openSeams(page, id);
  await page.keyboard.press('l');
  await page.getByLabel('Start, %').fill('80');
  await page.getByLabel('Step', { exact: true }).fill('20');
  await page.getByLabel('Step', { exact: true }).blur();
  const { place, rungs } = ladderOf(proof);
  await expect(page.getByText(`Rung 1 of ${rungs.length}`)).toBeVisible();
  await page.keyboard.press('Space');
  for (const [index, rung] of rungs.entries()) {
    await expect(page.getByTestId('rung-percent')).toHaveText(`${rung.percent} %`);
    const run = drillRunMaybe(proof.compiled, place, drillOnRung(PLAIN_DRILL, rung))!;
    await expectClicks(
      page,
      clicksIn(proof, runFrom(proof, run.from, run.settings), { fromSeconds: 0, toSeconds: 600 }).map(
        ({ timeSeconds }) => timeSeconds,
      ),
    );
    await forgetSounds(page);
    await page.keyboard.press(index % 2 === 0 ? 'g' : 'PageDown');
  }
  await expect(page.getByText('Climbed', { exact: true })).toBeVisible();
  await page.keyboard.press('h');
  const table = page.getByRole('table', { name: /Every run/ });
  await expect(table.getByRole('row')).toHaveCount(rungs.length + 1);
  const reached = rungs.map(({ percent }) => `${percent} % good`).join(', ');
  await expect(page.getByRole('img', { name: new RegExp(`${reached}$`) })).toBeVisible();
  await expect
    .poll(async () => {
      const runs = (await (await page.request.get(`/api/pieces/${id}/runs`)).json()) as RunResponse[];
      return runs.map(({ percent, mark, barIndex }) => [percent, mark, barIndex]);
    })
    .toEqual(rungs.map(({ percent }) => [percent, 'good', place.barIndex]));
  await page.reload();
  await expect(page.getByText(`${rungs.length} runs`, { exact: false }).first()).toContainText('100 % ready');
});

async function openSeams(page: Page, id: string): Promise<void> {
  await page.goto(`/piece/${id}/seams`);
  await expect(page.getByRole('heading', { level: 1, name: /seams?$/ })).toBeVisible();
}

/** The ladder from 80 % in one step, reckoned by the core from the hardest seam. */
function ladderOf({ piece, compiled }: Proof) {
  const worst = [...compiled.seams].sort((a, b) => b.difficulty.score - a.difficulty.score)[0]!;
  const place = seamPlace(compiled, compiled.timeline.route.barIndex[worst.performed]!);
  const rungs = rungsOf(
    { ...PLAIN_LADDER, startPercent: 80, step: { by: 'percent', size: 20 } },
    {
      printedBpm: printedBpmMaybe({ piece, compiled }, place)!,
      phrase: phraseAround({ piece, compiled }, worst.performed),
      sections: sectionsOf(piece),
      drill: PLAIN_DRILL,
    },
  );
  return { place, rungs };
}

/** What the page has handed over since it was last forgotten is what the core plans, once the run before has stopped. */
async function expectClicks(page: Page, planned: readonly number[]): Promise<void> {
  const first = planned[0]!;
  const wanted = planned.map((time) => time - first).filter((time) => time < LOOKED_AT_SECONDS);
  const missSeconds = async () => {
    const times = (await heardSounds(page)).map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
    const starts = times
      .slice(0, times.length - wanted.length + 1)
      .map((start, from) =>
        Math.max(...wanted.map((time, index) => Math.abs(times[from + index]! - start - time))),
      );
    return Math.min(Infinity, ...starts);
  };
  await expect.poll(missSeconds).toBeLessThan(0.0002);
}

test('runs made while the server does not answer are kept in the browser and logged once it does', async ({
  page,
}) => {
  const id = await makePiece(page.request, 'Away', [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] },
    { meter: '3/4' },
    {},
  ]);
  await openSeams(page, id);
  await page.route('**/runs/*', (route) => route.abort());
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.getByText('1 run ·')).toBeVisible();
  await page.unroute('**/runs/*');
  await openSeams(page, id);
  await expect
    .poll(async () => {
      const runs = (await (await page.request.get(`/api/pieces/${id}/runs`)).json()) as RunResponse[];
      return runs.map(({ mark, percent }) => [mark, percent]);
    })
    .toEqual([['good', 100]]);
  await page.keyboard.press('h');
  await page.getByRole('button', { name: 'take out' }).click();
  await expect(page.getByText('Not run yet')).toBeVisible();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('table', { name: 'Every run, newest first' })).toBeVisible();
  await expect
    .poll(
      async () => ((await (await page.request.get(`/api/pieces/${id}/runs`)).json()) as RunResponse[]).length,
    )
    .toBe(1);
});
