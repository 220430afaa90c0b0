import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';

/** A sound as the page handed it to the browser: when it is due, and what the audio clock said at that moment. */
export interface ScheduledSound {
  readonly whenSeconds: number;
  readonly handedOverAt: number;
  readonly isCancelled: boolean;
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
  sounds: Array<{ whenSeconds: number; handedOverAt: number; isCancelled: boolean }>;
  audio: BaseAudioContext;
}

/** How a test's loudspeaker is made: how fast its crystal goes, in millionths over the page's clock. */
interface Loudspeaker {
  readonly fasterPpm: number;
}

interface LoudspeakerWindow {
  /** Leaves out so many seconds of sound, as a device does that was busy elsewhere. */
  loseSound: (seconds: number) => void;
}

/**
 * Gives the page a loudspeaker as devices have them: its clock goes on by itself. The one of a browser without a sound card is a
 * timer that leaves out whatever it comes too late for, on busy cores up to a third of all sound. Call before the page opens.
 */
async function giveLoudspeaker(page: Page, { fasterPpm }: Loudspeaker): Promise<void> {
  await page.addInitScript(
    (rate) => {
      const BLOCK_FRAMES = 128;
      const LATENCY_SECONDS = 0.03;
      // A test may hold the page's own clock still.
      const pageMs = performance.now.bind(performance);
      const goneBy = new WeakMap<AudioContext, { seconds: number; sinceMs: number | null }>();
      let lostSeconds = 0;
      const secondsOf = (context: AudioContext) => {
        const clock = goneBy.get(context) ?? { seconds: 0, sinceMs: null };
        if (!goneBy.has(context)) context.addEventListener('statechange', () => secondsOf(context));
        goneBy.set(context, clock);
        const nowMs = pageMs();
        if (clock.sinceMs !== null) clock.seconds += ((nowMs - clock.sinceMs) / 1000) * rate;
        clock.sinceMs = context.state === 'running' ? nowMs : null;
        return clock.seconds - lostSeconds;
      };
      const { get: ownTime } =
        Object.getOwnPropertyDescriptor(BaseAudioContext.prototype, 'currentTime') ?? {};
      Object.defineProperty(BaseAudioContext.prototype, 'currentTime', {
        configurable: true,
        get(this: BaseAudioContext): number {
          if (!(this instanceof AudioContext)) return Number(ownTime?.call(this));
          return (
            (Math.floor((secondsOf(this) * this.sampleRate) / BLOCK_FRAMES) * BLOCK_FRAMES) / this.sampleRate
          );
        },
      });
      for (const [name, latency] of [
        ['baseLatency', 0],
        ['outputLatency', LATENCY_SECONDS],
      ] as const)
        Object.defineProperty(AudioContext.prototype, name, { configurable: true, get: () => latency });
      AudioContext.prototype.getOutputTimestamp = function () {
        const contextTime = Math.max(0, secondsOf(this) - LATENCY_SECONDS);
        return { contextTime, performanceTime: pageMs() };
      };
      (window as unknown as LoudspeakerWindow).loseSound = (seconds) => {
        lostSeconds += seconds;
      };
    },
    1 + fasterPpm / 1e6,
  );
}

/** The device of the page leaves out so many seconds of sound, as one that was busy elsewhere. */
export function loseSound(page: Page, seconds: number): Promise<void> {
  return page.evaluate((by) => (window as unknown as LoudspeakerWindow).loseSound(by), seconds);
}

/**
 * Listens in on every sound that the page schedules, at the browser's own interface, and gives it a loudspeaker of a steady clock;
 * or, where sound is also recorded, leaves it the browser's own. Call before the page opens.
 */
export async function listenToSounds(
  page: Page,
  loudspeaker: Loudspeaker | "the browser's own" = { fasterPpm: 0 },
): Promise<void> {
  if (loudspeaker !== "the browser's own") await giveLoudspeaker(page, loudspeaker);
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
      const sound = { whenSeconds: beat, handedOverAt: this.context.currentTime, isCancelled: false };
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
    { timeout: 30_000 },
  );
}

/** Where the bead was, frame by frame, with the audio time heard at that frame. */
export function followBead(page: Page, milliseconds: number): Promise<Array<{ seconds: number; y: number }>> {
  return page.evaluate(
    (duration) =>
      new Promise((resolve) => {
        const audio = (window as unknown as SoundWindow).audio as AudioContext;
        const frames: Array<{ seconds: number; y: number }> = [];
        const end = performance.now() + duration;
        const look = () => {
          const bead = document.querySelector<HTMLElement>('[data-testid="bead"]');
          const y = /,\s*(-?[\d.]+)px/.exec(bead?.style.transform ?? '')?.[1];
          const latency = (audio.baseLatency || 0) + (audio.outputLatency || 0);
          if (y !== undefined) frames.push({ seconds: audio.currentTime - latency, y: Number(y) });
          if (performance.now() < end) requestAnimationFrame(look);
          else resolve(frames);
        };
        requestAnimationFrame(look);
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
