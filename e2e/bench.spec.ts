import { expect, type Page } from '@playwright/test';
import { makePiece, openMap, savedPiece } from './pieces.ts';
import { wavOf } from './wavFile.ts';
import { heardMs, listenToSounds } from './sound.ts';
import { expectTold, test } from './told.ts';

const BARS = [
  { meter: '6/8', tempo: [{ tempo: 'dotted quarter = 60' }] },
  ...Array.from({ length: 7 }, () => ({})),
];

async function openBench(page: Page, tool: string): Promise<string> {
  const id = await makePiece(page.request, 'Sums', BARS);
  await page.goto(`/piece/${id}/bench?tool=${tool}`);
  await expect(page.getByRole('status')).toBeVisible();
  return id;
}

test('a chain of tempi is typed, sent to the selected bars, and taken back to the very same piece', async ({
  page,
}) => {
  const id = await makePiece(page.request, 'Sums', BARS);
  await openMap(page, id);
  const before = (await savedPiece(page.request, id)).piece;
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+B');
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible();
  await page.keyboard.press('2');
  await page.getByLabel('From', { exact: true }).fill('q. = 60');
  await page.getByLabel('Steps').fill('3:2, e = q');
  await expect(page.getByRole('status')).toContainText('From 60 to 180 exactly');
  await expect(page.getByRole('row')).toHaveCount(4);
  await page.getByRole('heading', { name: 'Bench' }).click();
  await page.keyboard.press('e');
  await expectTold(page, /In the piece: bar 2/);
  await expect
    .poll(async () => JSON.stringify((await savedPiece(page.request, id)).piece))
    .toContain('dotted quarter = 90');
  await page.keyboard.press('ControlOrMeta+z');
  await expect
    .poll(async () => JSON.stringify((await savedPiece(page.request, id)).piece))
    .toBe(JSON.stringify(before));
});

test('a rhythm is tapped on a key, told, drawn, and what does not read is refused where it stands', async ({
  page,
}) => {
  await openBench(page, 'finder');
  await page.clock.install({ time: 0 });
  await page.clock.pauseAt(60_000);
  for (const key of ['y', 't', 't', 'y', 't', 't', 'y', 't', 't']) {
    await page.keyboard.press(key);
    await page.clock.runFor(300);
  }
  const beats = page.getByLabel('Beats', { exact: true });
  await expect(beats).toHaveValue('0! 300 600 900! 1200 1500 1800! 2100 2400');
  await page.clock.resume();
  await beats.fill('X.x.x..X.x.x..');
  await expect(page.getByRole('status')).toContainText('7/8 as 2+2+3');
  await beats.fill('nothing of the kind');
  await expect(page.getByRole('alert')).toContainText('Write strong and weak beats as');
  await expect(beats).toHaveAttribute('aria-invalid', 'true');
  await page.reload();
  await expect(beats).toHaveValue('nothing of the kind');
  await page.getByRole('button', { name: 'the example again' }).click();
  await expect(page.getByRole('status')).toContainText('7/8 as 2+2+3');
});

test('an overlay is heard against the beat', async ({ page }) => {
  await listenToSounds(page);
  await openBench(page, 'overlay');
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect.poll(() => heardMs(page)).not.toHaveLength(0);
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeVisible();
});

test('two hands are put apart by key, and taps are heard as they came', async ({ page }) => {
  await listenToSounds(page);
  await openBench(page, 'overlay');
  await page.keyboard.press('h');
  await expect(page.getByRole('button', { name: 'Both in both ears' })).toBeVisible();
  await openBench(page, 'finder');
  await page.getByLabel('Beats', { exact: true }).fill('0! 300 610 905! 1200 1500 1790!');
  await page.getByRole('button', { name: 'As tapped' }).click();
  await expect.poll(async () => (await heardMs(page)).length).toBe(7);
  const times = await heardMs(page);
  expect(times.map((ms) => Math.round(ms - times[0]!))).toEqual([0, 300, 610, 905, 1200, 1500, 1790]);
});

test('a bar is spelled anew by pointer, at the tempo that keeps its time', async ({ page }) => {
  const id = await openBench(page, 'respell');
  await expect(page.getByRole('status')).toContainText('3/4 at quarter = 90 lasts as long: 2000 ms a bar');
  await page.getByRole('button', { name: /notes twice as long/ }).click();
  await expect
    .poll(async () => JSON.stringify((await savedPiece(page.request, id)).piece))
    .toContain('"meter":"6/4"');
});

/** A click of so many bars of 7/8, the first beat louder, as a WAV file of 16 bits. */
function recordedClick(bars: number): Buffer {
  const rate = 22_050;
  const samples = new Int16Array(Math.ceil(rate * (1 + bars * 1.4)));
  let at = 0.4;
  for (let bar = 0; bar < bars; bar++)
    for (const [place, group] of [2, 2, 3].entries()) {
      const level = place === 0 ? 24_000 : 10_000;
      for (let index = 0; index < 0.05 * rate; index++)
        samples[Math.round(at * rate) + index] =
          level * Math.exp(-index / (0.008 * rate)) * Math.sin((2 * Math.PI * 1500 * index) / rate);
      at += group * 0.2;
    }
  return wavOf(samples, rate);
}

test('a meter is found in a recording, which can be played to tap along; what is no sound is told', async ({
  page,
}) => {
  const id = await makePiece(page.request, 'Recorded', [{ meter: '4/4' }]);
  await page.goto(`/piece/${id}/bench?tool=finder`);
  const input = page.getByLabel('A recording to find strokes in');
  await input.setInputFiles({ name: 'click.wav', mimeType: 'audio/wav', buffer: recordedClick(5) });
  await expect(page.getByText('15 strokes, 5 of them strong')).toBeVisible();
  await expect(page.getByRole('status')).toContainText('It is 7/8 as 2+2+3: it explains 100 %');
  const player = page.getByLabel('click.wav');
  await expect
    .poll(() => player.evaluate((audio) => (audio as HTMLAudioElement).duration))
    .toBeGreaterThan(7);
  await input.setInputFiles({
    name: 'a.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('nothing of the kind'),
  });
  await expect(page.getByText('This is no sound that this browser plays')).toBeVisible();
});
