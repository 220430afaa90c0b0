import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  analysedTake,
  EXPLANATION_WORDS,
  runFrom,
  seamTallies,
  simulatedTake,
  takeRecordOf,
  verdictWords,
  type BarDocument,
} from '@anchorbeat/core';
import type { RunResponse } from '@anchorbeat/contract';
import { chromium, expect, type Page } from '@playwright/test';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from '../scripts/chromium.mjs';
import { makePiece, openMap, savedProof } from './pieces.ts';
import { audioGoesOn, heardMs, listenToSounds } from './sound.ts';
import { keepRead, test } from './test.ts';
import { wavOf } from './wavFile.ts';

const STEADY: readonly BarDocument[] = [{ meter: '4/4', tempo: [{ tempo: 'quarter = 180' }] }, {}, {}];
/** Over a minute of bars, so that a run does not end by itself before a slow machine has tapped and stopped it. */
const AFTER = Array.from({ length: 70 }, () => ({}));
const ODD: readonly BarDocument[] = [...STEADY, { meter: '7/8 as 2+2+3' }, { meter: '4/4' }, ...AFTER];

/** From the count-off to some bars after the seam; the runs go on for longer. */
const PLAYED_SECONDS = 10;

/** Presses Enter as if it had been at moments of the run that have been heard, on the browser's own clock of its input. */
async function tapAt(page: Page, runStartMs: number, onsets: readonly number[]): Promise<void> {
  const devtools = await page.context().newCDPSession(page);
  for (const onset of onsets) {
    const timestamp = (runStartMs + onset * 1000) / 1000;
    const key = { key: 'Enter', code: 'Enter', windowsVirtualKeyCode: 13, timestamp };
    await devtools.send('Input.dispatchKeyEvent', { type: 'rawKeyDown', ...key });
    await devtools.send('Input.dispatchKeyEvent', { type: 'keyUp', ...key });
  }
}

test('tapped on a key: told at the seam, kept with the run, looked at again in its record', async ({
  page,
}) => {
  await listenToSounds(page);
  const id = await makePiece(page.request, 'Taken', ODD);
  const proof = await savedProof(page.request, id);
  const plan = runFrom(proof, 0);
  const { onsets } = simulatedTake(proof, plan, {
    habit: 'filled-up',
    seed: 3,
    missing: 0,
    extra: 0,
    untilSeconds: PLAYED_SECONDS,
  });
  const record = takeRecordOf(proof, 'pulse', analysedTake(proof, plan, { onsets, play: 'pulse' }));
  const worst = seamTallies(record)[0]!.shown;
  expect(worst.explanation).toBe('filled-up');

  await openMap(page, id);
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('i');
  await expect(page.getByTestId('run-wishes')).toContainText('play along: every beat');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('tap-pad')).toBeVisible();
  await expect.poll(async () => (await heardMs(page)).length).toBeGreaterThan(0);
  await audioGoesOn(page, PLAYED_SECONDS);
  await tapAt(page, (await heardMs(page))[0]!, onsets);
  await expect(page.getByTestId('tap-pad')).toContainText(String(onsets.length));
  await page.keyboard.press('Space');
  const sheet = page.getByRole('dialog');
  await expect(sheet).toBeVisible();
  await expect(sheet.getByTestId('verdict')).toContainText(EXPLANATION_WORDS[worst.explanation].did, {
    ignoreCase: true,
  });
  const logged = async () =>
    ((await (await page.request.get(`/api/pieces/${id}/runs`)).json()) as RunResponse[])[0]?.take?.seams ??
    [];
  await expect.poll(logged).not.toEqual([]);
  expect((await logged()).map(({ explanation }) => explanation)).toContain(worst.explanation);
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  await page.goto(`/piece/${id}/seams?bars=${worst.barIndex}`);
  await expect(page.getByRole('heading', { level: 1, name: /seam/ })).toBeVisible();
  await page.keyboard.press('h');
  await page.getByRole('button', { name: new RegExp(verdictWords(worst).split(',')[0]!) }).click();
  await expect(page.getByRole('dialog')).toContainText(EXPLANATION_WORDS[worst.explanation].means);
});

/** A microphone that hears what the test plays to it, and nothing else. Call before the page opens. */
async function giveMicrophone(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const rooms: MediaStreamAudioDestinationNode[] = [];
    Object.assign(window, { rooms });
    navigator.mediaDevices.getUserMedia = () => {
      const context = new AudioContext({ sampleRate: 48_000 });
      const room = new MediaStreamAudioDestinationNode(context);
      rooms.push(room);
      return Promise.resolve(room.stream);
    };
  });
}

/** Waits until the page has opened the microphone so often, and closed all but so many of them. */
async function microphones(page: Page, opened: number, stillOpen: number): Promise<void> {
  await page.waitForFunction(
    ([all, open]) => {
      const { rooms } = window as unknown as { rooms: MediaStreamAudioDestinationNode[] };
      const live = rooms.filter(({ stream }) =>
        stream.getTracks().some((track) => track.readyState === 'live'),
      );
      return rooms.length === all && live.length === open;
    },
    [opened, stillOpen],
    { timeout: 60_000 },
  );
}

/** Claps into the microphone that was opened last, at seconds of a run that began at a moment of the page. */
function clapAt(page: Page, runStartMs: number, onsets: readonly number[]): Promise<void> {
  return page.evaluate(
    async ({ startMs, seconds }) => {
      const { rooms } = window as unknown as { rooms: MediaStreamAudioDestinationNode[] };
      const room = rooms.at(-1)!;
      const context = room.context as AudioContext;
      await context.resume();
      const { sampleRate } = context;
      const aheadSeconds = 0.1;
      const begins = context.currentTime + aheadSeconds;
      const runSeconds = (performance.timeOrigin + performance.now() - startMs) / 1000 + aheadSeconds;
      const last = seconds.at(-1) ?? 0;
      const buffer = new AudioBuffer({ length: Math.ceil((last - runSeconds + 1) * sampleRate), sampleRate });
      const samples = buffer.getChannelData(0);
      for (const onset of seconds) {
        const from = Math.round((onset - runSeconds) * sampleRate);
        if (from < 0) continue;
        for (let at = 0; at < 0.06 * sampleRate; at++)
          samples[from + at] = 0.5 * Math.exp(-at / (0.008 * sampleRate)) * (2 * Math.random() - 1);
      }
      const claps = new AudioBufferSourceNode(context, { buffer });
      claps.connect(room);
      claps.start(begins);
    },
    { startMs: runStartMs, seconds: [...onsets] },
  );
}

test('clapped into the microphone: heard, told at the seam, and only times are kept', async ({ page }) => {
  await giveMicrophone(page);
  await listenToSounds(page, "the browser's own");
  const id = await makePiece(page.request, 'Clapped', ODD);
  const proof = await savedProof(page.request, id);
  const habit = { habit: 'filled-up', seed: 3, missing: 0, extra: 0, untilSeconds: PLAYED_SECONDS } as const;
  const { onsets } = simulatedTake(proof, runFrom(proof, 0), habit);
  await openMap(page, id);
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Listen to takes' }).click();
  await expect(page.getByTestId('heard-claps')).toHaveText('0');
  await page.getByRole('button', { name: 'Done' }).click();
  // It was tried, and listened to in the dialog; the run opens it once more.
  await microphones(page, 2, 0);
  await page.keyboard.press('i');
  await expect(page.getByTestId('run-wishes')).toContainText('every beat');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('tap-pad')).toContainText('Clap, play or tap');
  await expect.poll(async () => (await heardMs(page)).length).toBeGreaterThan(0);
  const start = (await heardMs(page))[0]!;
  await microphones(page, 3, 1);
  await clapAt(page, start, onsets);
  await audioGoesOn(page, PLAYED_SECONDS);
  await expect(page.getByTestId('tap-pad')).toContainText(/[1-9]/);
  await page.keyboard.press('Space');
  const sheet = page.getByRole('dialog');
  await expect(sheet).toBeVisible();
  await expect(sheet.getByTestId('verdict')).toContainText(EXPLANATION_WORDS['filled-up'].did, {
    ignoreCase: true,
  });
});

/** Three seconds with a clap every half second, which the microphone hears over and over. */
function clapping(): Buffer {
  const rate = 48_000;
  const samples = new Int16Array(3 * rate);
  for (let clap = 0; clap < 6; clap++)
    for (let at = 0; at < 0.06 * rate; at++)
      samples[(clap + 0.5) * 0.5 * rate + at] =
        16_000 * Math.exp(-at / (0.008 * rate)) * (2 * Math.random() - 1);
  return wavOf(samples, rate);
}

test('the microphone that the browser has is asked for, opened and heard', async ({
  baseURL,
  storageState,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-microphone-'));
  const file = join(folder, 'clapping.wav');
  writeFileSync(file, clapping());
  const microphone = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'];
  const browser = await chromium.launch({
    executablePath: CHROMIUM_PATH,
    args: [...CHROMIUM_ARGS, ...microphone, `--use-file-for-fake-audio-capture=${file}`],
  });
  const page = await browser.newPage({
    baseURL: baseURL!,
    storageState: storageState!,
    serviceWorkers: 'block',
  });
  await keepRead(page.context());
  const id = await makePiece(page.request, 'Heard', STEADY);
  await page.goto(`/piece/${id}/podium`);
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Listen to takes' }).click();
  await expect
    .poll(async () => Number(await page.getByTestId('heard-claps').textContent()))
    .toBeGreaterThan(8);
  await browser.close();
  rmSync(folder, { recursive: true });
});

test('on plain http from another machine the microphone says what it needs, and tapping stays', async ({
  page,
}) => {
  await page.addInitScript(() => Object.defineProperty(window, 'isSecureContext', { value: false }));
  const id = await makePiece(page.request, 'Plain', STEADY);
  await page.goto(`/piece/${id}/podium`);
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('q');
  await expect(page.getByRole('alert')).toContainText('--https');
  await expect(page.getByRole('button', { name: 'Listen to takes' })).toHaveCount(0);
});

test('the device’s delay is measured by its own clicks, and kept', async ({ page }) => {
  // A microphone that hears what the page sounds, a twelfth of a second later.
  await page.addInitScript(() => {
    type Connect = (this: AudioNode, to: AudioNode, output?: number, input?: number) => AudioNode;
    const nodes = AudioNode.prototype as unknown as { connect: Connect };
    const { connect } = nodes;
    const heard: MediaStreamAudioDestinationNode[] = [];
    nodes.connect = function (to, ...rest) {
      if (this instanceof WaveShaperNode && to === this.context.destination) {
        const room = new MediaStreamAudioDestinationNode(this.context as AudioContext);
        const air = new DelayNode(this.context, { delayTime: 0.0833 });
        connect.call(this, air);
        connect.call(air, room);
        heard.push(room);
      }
      return connect.call(this, to, ...rest);
    };
    navigator.mediaDevices.getUserMedia = () => {
      const room = heard.at(-1);
      return room ? Promise.resolve(room.stream.clone()) : Promise.reject(new Error('nothing sounds yet'));
    };
  });
  const id = await makePiece(page.request, 'Loop', STEADY);
  await page.goto(`/piece/${id}/podium`);
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Measure the delay' }).click();
  await expect(page.getByText(/This device hears itself after \d+ ms/)).toBeVisible();
  const words = (await page.getByText(/This device hears itself after/).textContent())!;
  const ms = Number(/\d+/.exec(words)![0]);
  expect(ms).toBeGreaterThan(70);
  expect(ms).toBeLessThan(400);
  await page.reload();
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('q');
  await expect(page.getByText(words)).toBeVisible();
});

test('a map is tried on simulated players: they are heard, measured, and nothing of it is logged', async ({
  page,
}) => {
  await listenToSounds(page);
  // By the moment at which they begin it follows how they play; of other players one in forty is explained otherwise.
  await page.addInitScript((now) => (Date.now = () => now), Date.parse('2031-03-04T19:30:00Z'));
  const id = await makePiece(page.request, 'Tried', ODD);
  await openMap(page, id);
  await page.keyboard.press('Shift+P');
  await expect(page.getByTestId('big-beat')).toBeVisible();
  await page.keyboard.press('Shift+T');
  const players = page.getByRole('dialog', { name: 'Try it on simulated players' });
  await players.getByRole('button', { name: 'fill odd bars up' }).click();
  await players.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByTestId('run-wishes')).toContainText('players who fill odd bars up');
  await page.keyboard.press('Space');
  await audioGoesOn(page, PLAYED_SECONDS);
  // Three sections on every beat besides the click.
  expect((await heardMs(page)).length).toBeGreaterThan(3 * 20);
  await page.keyboard.press('Space');
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByTestId('verdict')).toContainText(EXPLANATION_WORDS['filled-up'].did, {
    ignoreCase: true,
  });
  await expect(sheet).toContainText('Simulated players, not logged');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+T');
  await players.getByRole('button', { name: 'nobody' }).click();
  await players.getByRole('button', { name: 'Done' }).click();
  await page.keyboard.press('Space');
  await audioGoesOn(page, 8);
  await page.keyboard.press('Space');
  const runs = async () =>
    ((await (await page.request.get(`/api/pieces/${id}/runs`)).json()) as RunResponse[]).length;
  // The run without them is in the log, the one before it is not.
  await expect.poll(runs).toBe(1);
});
