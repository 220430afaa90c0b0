import { expect, type Page } from '@playwright/test';
import { makePiece, openMap } from './pieces.ts';
import { audioGoesOn, heardSounds, listenToSounds } from './sound.ts';
import { askedInThirty, countFrames } from './stillness.ts';
import { test } from './test.ts';

const BEAT_SECONDS = 0.25;

async function openPodium(page: Page, bars: Parameters<typeof makePiece>[2]): Promise<void> {
  await listenToSounds(page);
  const id = await makePiece(page.request, 'Podium piece', bars);
  await openMap(page, id);
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('big-beat')).toBeVisible();
}

const quick = (count: number, more: Record<number, object> = {}) =>
  Array.from({ length: count }, (_, index) => ({
    ...(index === 0 && { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] }),
    ...more[index],
  }));

/** Times of the sounds that were really heard, in order. */
async function heardTimes(page: Page): Promise<number[]> {
  const sounds = await heardSounds(page);
  return sounds.map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
}

test('tempo changes while it sounds leave no gap and double no click', async ({ page }) => {
  await openPodium(page, quick(60));
  await page.keyboard.press('Space');
  await audioGoesOn(page, 2);
  for (const key of [']', ']', '[', '[', '[', ',', '.', 'p', 'b', ']', '[']) {
    await page.keyboard.press(key);
    await audioGoesOn(page, 0.33);
  }
  await expect(page.getByTestId('run-wishes')).toContainText('changes at the bar');
  await page.keyboard.press('e');
  await expect(page.getByText('count me in')).toBeVisible();
  const times = await heardTimes(page);
  const paces = [90, 95, 100, 105, 110, 89, 94, 104].map((percent) => (BEAT_SECONDS * 100) / percent);
  times.slice(1).forEach((time, index) => {
    const gap = time - times[index]!;
    expect(Math.min(...paces.map((pace) => Math.abs(pace - gap)))).toBeLessThan(0.0005);
  });
  expect(times.length).toBeGreaterThan(20);
});

/** The key that the footer shows for what it says. */
function footerKey(page: Page, name: string) {
  return page.locator('footer').getByRole('button', { name, exact: true }).locator('kbd');
}

test('a pedal through MIDI and one on the screen do what the key map says', async ({ page }) => {
  await page.addInitScript(() => {
    const input = { onmidimessage: null as ((event: { data: Uint8Array }) => void) | null };
    const access = { inputs: new Map([['one', input]]), onstatechange: null };
    Object.assign(window, {
      pressMidi: (...data: number[]) => input.onmidimessage?.({ data: Uint8Array.of(...data) }),
    });
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: () => Promise.resolve(access) });
  });
  const midi = (...data: number[]) =>
    page.evaluate(
      (bytes) => (window as unknown as { pressMidi: (...d: number[]) => void }).pressMidi(...bytes),
      data,
    );
  await openPodium(page, quick(40));
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Connect pedals and pads' }).click();
  await expect(page.getByRole('button', { name: 'Pedals and pads connected' })).toBeVisible();
  await page.getByRole('button', { name: /give another key: loop: the selected bars/ }).click();
  await midi(0x99, 38, 90);
  await expect(page.getByRole('button', { name: /^pad 38, give another key: loop/ })).toBeVisible();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await midi(0x99, 38, 90);
  await expect(page.getByTestId('run-wishes')).toContainText('round 1 to 4');
  await midi(0xb0, 64, 127);
  await expect(footerKey(page, 'stop')).toHaveText('space');
  await page.keyboard.press('x');
  await page.getByRole('button', { name: 'right pedal' }).click();
  await expect(page.getByRole('button', { name: /count me in/ })).toBeVisible();
});

test.describe('in a browser that never sounded', () => {
  test.use({ readBefore: {}, storageState: { cookies: [], origins: [] } });

  test('the note on hearing is said before the first sound, which waits for the answer, and never again', async ({
    page,
  }) => {
    await page.request.post('/api/session/here');
    await openPodium(page, quick(60));
    await page.keyboard.press('Space');
    const note = page.getByRole('dialog', { name: 'With headphones: start quiet' });
    await expect(note).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(note).toHaveCount(0);
    await expect(footerKey(page, 'count me in')).toBeVisible();
    await page.keyboard.press('Space');
    await note.getByRole('button', { name: 'Understood' }).click();
    await expect(footerKey(page, 'stop')).toBeVisible();
    await page.reload();
    await page.getByTestId('big-beat').click();
    await expect(footerKey(page, 'stop')).toBeVisible();
    await expect(note).toHaveCount(0);
  });
});

test('on every screen the sheet of keys finds an act by its words and does it', async ({ page }) => {
  const id = await makePiece(page.request, 'Sheet', quick(4, { 2: { meter: '3/4' } }));
  for (const [screen, words, seen] of [
    ['map', 'work out', page.getByRole('textbox', { name: 'Note after' })],
    ['seams', 'ladder', page.getByText(/Rung 1 of/)],
    ['handout', 'shelf', page.getByRole('button', { name: /New piece/ })],
  ] as const) {
    await page.goto(`/piece/${id}/${screen}`);
    await expect(page.getByText(/Sheet/).first()).toBeVisible();
    await page.keyboard.press('?');
    await page.getByLabel('Find').fill(words);
    await page.keyboard.press('Enter');
    await expect(seen).toBeVisible();
  }
});

test('selected bars are left out today, or get a click of their own, and the run says so', async ({
  page,
}) => {
  await listenToSounds(page);
  const bars = Array.from({ length: 8 }, (_, bar) =>
    bar ? {} : { meter: '2/4', tempo: [{ tempo: 'quarter = 240' }] },
  );
  const id = await makePiece(page.request, 'Left out', bars);
  await openMap(page, id);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  for (let more = 0; more < 3; more++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+P');
  const wishes = page.getByTestId('run-wishes');
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('Shift+X');
  await expect(wishes).toContainText('without bars 3 to 6');
  await page.keyboard.press('Home');
  await page.keyboard.press(' ');
  // It is over in seconds, and what was heard stays.
  await expect.poll(async () => (await heardTimes(page)).length).toBeGreaterThan(8);
  await expect(page.getByTestId('bead')).toHaveCount(0);
  // The count-off of two seconds at least, then four bars of two beats instead of eight.
  const times = await heardTimes(page);
  const beats = times.slice(-8).map((time) => (time - times.at(-8)!) / BEAT_SECONDS);
  for (const [index, beat] of beats.entries()) expect(beat).toBeCloseTo(index, 3);
  expect(times.length).toBeLessThan(8 + 10);
  await expect(page.getByRole('button', { name: /count me in/ }).first()).toBeVisible();
});

test('a programme is played through by one key: on to the podium of the next piece, at its beginning', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 2 }).nth(1)).toBeVisible();
  const titles = await page.getByRole('heading', { level: 2 }).allTextContents();
  await page
    .getByRole('link', { name: new RegExp(titles[0]!) })
    .first()
    .click();
  await expect(page.locator('[data-bar]').first()).toBeVisible();
  await page.keyboard.press('Shift+P');
  await expect(page.locator('.podium-title')).toHaveText(titles[0]!);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('z');
  await expect(page.locator('.podium-title')).toHaveText(titles[1]!);
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'at the bar’s end' })).toBeVisible();
  await page.keyboard.press('Space');
});

test('the screens lie still while nothing sounds, and move while something does', async ({ page }) => {
  await countFrames(page);
  const asked = () => askedInThirty(page);
  // Long enough to sound until it is stopped.
  const more = Array.from({ length: 60 }, () => ({}));
  const bars = [{ meter: '4/4' }, { meter: '7/8 as 2+2+3' }, { meter: '4/4' }, ...more];
  const id = await makePiece(page.request, 'Slack', bars);
  await openMap(page, id);
  await expect.poll(asked).toBe(0);
  await page.keyboard.press('Shift+E');
  await expect(page.getByRole('button', { name: /Run this seam/ })).toBeVisible();
  await expect.poll(asked).toBe(0);
  await page.keyboard.press('Space');
  await expect.poll(asked).toBeGreaterThan(20);
  await page.keyboard.press('Space');
  await expect.poll(asked).toBe(0);
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('hand')).toBeVisible();
  await expect.poll(asked).toBe(0);
  await page.keyboard.press('Space');
  await expect(page.getByTestId('bead')).toBeVisible();
  await expect.poll(asked).toBeGreaterThan(20);
  await page.keyboard.press('Space');
  await expect(page.getByTestId('bead')).toHaveCount(0);
  await expect.poll(asked).toBe(0);
});
