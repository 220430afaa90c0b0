import { expect, type Page } from '@playwright/test';
import { enter, makePiece, openMap, clicksFrom, savedProof, savedBars } from './pieces.ts';
import { forgetSounds, heardSounds, listenToSounds } from './sound.ts';
import { expectTold, test } from './told.ts';

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
  await expectTold(page, /"H9" is no note/);
  expect((await savedBars(page, id))[0]).toEqual({
    meter: '4/4',
    countOff: { bars: 2, breathOnLastBeat: true },
  });
  const plan = clicksFrom(await savedProof(page.request, id), 0);
  expect(plan.filter(({ kind }) => kind.startsWith('countoff'))).toHaveLength(7);
  await page.getByRole('button', { name: /Hear it/ }).click();
  await expect.poll(async () => (await heardSounds(page)).length).toBeGreaterThan(7);
  await page.getByRole('button', { name: 'Stop', exact: true }).last().click();
  await page.getByRole('button', { name: 'As usual' }).click();
  expect((await savedBars(page, id))[0]).toEqual({ meter: '4/4' });
});

/** A microphone in a quiet room in which somebody says the shipped "4", a little after the page said that it listens. */
async function giveSpeaker(page: Page): Promise<void> {
  await page.addInitScript(() => {
    navigator.mediaDevices.getUserMedia = async () => {
      const context = new AudioContext({ sampleRate: 48_000 });
      const file = await fetch('/words/words.wav');
      const buffer = await context.decodeAudioData(await file.arrayBuffer());
      const index = (await (await fetch('/words/words.json')).json()) as Record<
        string,
        Record<string, number>
      >;
      const room = new MediaStreamAudioDestinationNode(context);
      const hiss = new AudioBuffer({ length: 4 * 48_000, sampleRate: 48_000 });
      const noise = Float32Array.from({ length: hiss.length }, () => 0.001 * (Math.random() - 0.5));
      hiss.copyToChannel(noise, 0);
      const quiet = new AudioBufferSourceNode(context, { buffer: hiss, loop: true });
      quiet.connect(room);
      quiet.start();
      const listens = new MutationObserver(() => {
        if (!document.querySelector('[role="dialog"] [role="status"]')?.textContent?.startsWith('Listening'))
          return;
        listens.disconnect();
        const voice = new AudioBufferSourceNode(context, { buffer });
        voice.connect(room);
        const { startSeconds, lengthSeconds } = index['4'] ?? {};
        voice.start(context.currentTime + 0.4, startSeconds, lengthSeconds);
      });
      listens.observe(document.body, { subtree: true, childList: true, characterData: true });
      await context.resume();
      return room.stream;
    };
  });
}

test('a cue in the director’s own voice is recorded, lands with its vowel on the beat, and is kept until it is taken out', async ({
  page,
}) => {
  await listenToSounds(page);
  await giveSpeaker(page);
  const id = await makePiece(page.request, 'Own voice', [{ meter: '4/4' }, {}]);
  await openMap(page, id);
  const studio = async () => {
    await page.getByRole('button', { name: 'count-off' }).click();
    await expect(page.getByLabel('Cue word')).toBeVisible();
  };
  await studio();
  await page.getByLabel('Cue word').fill('from the top');
  await expect(page.getByText('is not recorded')).toBeVisible();
  await page.getByRole('button', { name: 'Count in your own voice' }).click();
  const dialog = page.getByRole('dialog', { name: 'Count in your own voice' });
  await expect(dialog.getByRole('button', { name: 'from the top' })).toHaveAttribute('aria-pressed', 'true');
  await expect(dialog.getByRole('button', { name: 'Record it' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('status')).toContainText('Kept');
  const said = dialog.getByRole('img', { name: /the beat falls \d+ ms in/ });
  const anchorSeconds = Number(/(\d+) ms in/.exec((await said.getAttribute('aria-label'))!)![1]) / 1000;
  expect(anchorSeconds).toBeGreaterThan(0.08);
  expect(anchorSeconds).toBeLessThan(0.13);
  await forgetSounds(page);
  await dialog.getByRole('button', { name: 'Hear it' }).click();
  // Four beats, and the word so much before the last of them.
  await expect
    .poll(async () => {
      const times = (await heardSounds(page)).map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
      const last = times.at(-1) ?? 0;
      return times.length === 5 && times.some((time) => Math.abs(last - time - anchorSeconds) < 0.001);
    })
    .toBe(true);
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('is not recorded')).toHaveCount(0);
  await page.reload();
  await studio();
  await page.getByRole('button', { name: 'Your own voice: 1 word' }).click();
  await dialog.getByRole('button', { name: 'from the top, recorded' }).click();
  await dialog.getByRole('button', { name: 'Take it out' }).click();
  await expect(dialog.getByRole('button', { name: 'from the top', exact: true })).toBeVisible();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'Count in your own voice' })).toBeVisible();
});
