import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { steadyLoudspeaker } from '../scripts/loudspeaker.mjs';

/** A sound as the page handed it to the browser: when it is due, and what the audio clock said at that moment. */
export interface ScheduledSound {
  readonly whenSeconds: number;
  readonly handedOverAt: number;
  readonly isCancelled: boolean;
  /** How long it is; kinds of clicks differ by it. */
  readonly lengthSeconds: number;
}

interface Word {
  readonly startSeconds: number;
  readonly lengthSeconds: number;
  readonly anchorSeconds: number;
}

const WORDS: readonly Word[] = Object.values(
  JSON.parse(readFileSync('apps/web/public/words/words.json', 'utf8')) as Record<string, Word>,
);

interface SoundWindow {
  sounds: Array<{ -readonly [Field in keyof ScheduledSound]: ScheduledSound[Field] }>;
  audio: BaseAudioContext;
}

/** The device of the page leaves out so many seconds of sound, as one that was busy elsewhere. */
export function loseSound(page: Page, seconds: number): Promise<void> {
  return page.evaluate(
    (by) => (window as unknown as { loseSound: (seconds: number) => void }).loseSound(by),
    seconds,
  );
}

/**
 * Listens in on every sound that the page schedules, at the browser's own interface, and gives it a loudspeaker of a steady clock;
 * or, where sound is also recorded, leaves it the browser's own. Call before the page opens.
 */
export async function listenToSounds(
  page: Page,
  loudspeaker: 'steady' | "the browser's own" = 'steady',
): Promise<void> {
  if (loudspeaker === 'steady') await page.addInitScript(steadyLoudspeaker, { fasterPpm: 0 });
  await page.addInitScript((words) => {
    const heard = window as unknown as SoundWindow;
    heard.sounds = [];
    const { start, stop } = AudioBufferSourceNode.prototype;
    const bySource = new WeakMap<AudioBufferSourceNode, SoundWindow['sounds'][number]>();
    // A spoken word begins before its beat: what counts is where its anchor falls. Where the words begin in what the browser
    // decoded is seen from where this one ends; no two words are so near to one another that another would fit.
    const untilAnchor = (offset: number, duration: number) => {
      for (const { startSeconds, lengthSeconds, anchorSeconds } of words) {
        const from = offset + duration - startSeconds - lengthSeconds;
        if (from > 0.55 && from < 0.75) return from + startSeconds + anchorSeconds - offset;
      }
      return 0;
    };
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest: number[]) {
      heard.audio = this.context;
      const beat = when + (rest[0] === undefined ? 0 : untilAnchor(rest[0], rest[1] ?? 0));
      const sound = {
        whenSeconds: beat,
        handedOverAt: this.context.currentTime,
        isCancelled: false,
        lengthSeconds: this.buffer?.duration ?? 0,
      };
      heard.sounds.push(sound);
      bySource.set(this, sound);
      start.call(this, when, ...rest);
    };
    AudioBufferSourceNode.prototype.stop = function (when?: number) {
      const sound = bySource.get(this);
      if (sound) sound.isCancelled = true;
      stop.call(this, when);
    };
  }, WORDS);
}

export function soundsOf(page: Page): Promise<ScheduledSound[]> {
  return page.evaluate(() => (window as unknown as SoundWindow).sounds);
}

/** The sounds that were not taken back. */
export async function heardSounds(page: Page): Promise<ScheduledSound[]> {
  return (await soundsOf(page)).filter(({ isCancelled }) => !isCancelled);
}

export function forgetSounds(page: Page): Promise<void> {
  return page.evaluate(() => {
    (window as unknown as SoundWindow).sounds.length = 0;
  });
}

/** The audio clock of the page, and its rate. */
export function audioClock(page: Page): Promise<{ readonly seconds: number; readonly sampleRate: number }> {
  return page.evaluate(() => {
    const { audio } = window as unknown as SoundWindow;
    return { seconds: audio.currentTime, sampleRate: audio.sampleRate };
  });
}

/** Resolves once the page's audio clock has gone on so far from now; the first sound must have been handed over. */
export async function audioGoesOn(page: Page, seconds: number): Promise<void> {
  await page.waitForFunction(
    (by) => {
      const heard = window as unknown as SoundWindow & { goesOnFrom?: number };
      if (!heard.audio) return false;
      heard.goesOnFrom ??= heard.audio.currentTime;
      if (heard.audio.currentTime < heard.goesOnFrom + by) return false;
      delete heard.goesOnFrom;
      return true;
    },
    seconds,
    { timeout: 60_000 },
  );
}

/**
 * Where the bead was put, frame by frame, with the audio time that was heard just then: what else a page does in the same frame may
 * take long where the cores are busy.
 */
export function followBead(page: Page, milliseconds: number): Promise<Array<{ seconds: number; y: number }>> {
  return page.evaluate(
    (duration) =>
      new Promise((resolve) => {
        const audio = (window as unknown as SoundWindow).audio as AudioContext;
        const frames: Array<{ seconds: number; y: number }> = [];
        const moved = new MutationObserver((records) => {
          const { target } =
            records.findLast((record) => (record.target as Element).matches('[data-testid="bead"]')) ?? {};
          const y = /,\s*(-?[\d.]+)px/.exec((target as HTMLElement | undefined)?.style.transform ?? '')?.[1];
          const latency = (audio.baseLatency || 0) + (audio.outputLatency || 0);
          if (y !== undefined) frames.push({ seconds: audio.currentTime - latency, y: Number(y) });
        });
        moved.observe(document.body, { subtree: true, attributeFilter: ['style'] });
        setTimeout(() => {
          moved.disconnect();
          resolve(frames);
        }, duration);
      }),
    milliseconds,
  );
}

/** When each sound that was not taken back is heard, on the clock that all pages of a machine share. */
export function heardMs(page: Page): Promise<readonly number[]> {
  return page.evaluate(() => {
    const { sounds, audio } = window as unknown as { sounds: ScheduledSound[]; audio?: AudioContext };
    if (!audio) return [];
    const { contextTime = 0, performanceTime = 0 } = audio.getOutputTimestamp();
    const zeroMs = performance.timeOrigin + performanceTime - contextTime * 1000;
    return sounds
      .filter(({ isCancelled }) => !isCancelled)
      .map(({ whenSeconds }) => zeroMs + whenSeconds * 1000);
  });
}
