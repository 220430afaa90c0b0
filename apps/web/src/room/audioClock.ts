import { audioLineMaybe, audioSecondsOf, momentsAfter, type AudioMoment } from '@anchorbeat/core';

const EVERY_MS = 1000;
/** At first, and after the sound was suspended, it is read quickly: single readings may be off by a block. */
const QUICKLY_MS = 40;
const QUICK_READINGS = 25;
const READINGS = 10;
/** A stamp that is older, or speaks of another time than the sound's clock can have, is passed over. */
const STALE_MS = 500;
const MOST_LATENCY_SECONDS = 1;

/** What is heard when: the clock of a page's sound against the page's own, read once a second, a line through what was read. */
export class AudioClock {
  private moments: readonly AudioMoment[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** `correctionSeconds` is how much later than the browser knows this device sounds: its loudspeaker, its Bluetooth. */
  constructor(
    private readonly context: AudioContext,
    private readonly correctionSeconds: () => number,
  ) {
    this.readOn();
  }

  /** When, on the sound's clock, a sound must begin to be heard at a moment of the page. */
  dueSeconds(pageMs: number): number {
    if (this.moments.length === 0) this.read();
    const line = audioLineMaybe(this.moments);
    const heard = line ? audioSecondsOf(line, pageMs) : readingOf(this.context).audioSeconds;
    return heard - this.correctionSeconds();
  }

  close(): void {
    clearTimeout(this.timer);
  }

  private readOn(): void {
    this.read();
    const wait = this.moments.length < QUICK_READINGS ? QUICKLY_MS : EVERY_MS;
    this.timer = setTimeout(() => this.readOn(), wait);
  }

  private read(): void {
    if (this.context.state !== 'running') this.moments = [];
    else this.moments = momentsAfter(this.moments, stampMaybe(this.context) ?? readingOf(this.context));
  }
}

/** What the browser itself says is leaving the loudspeaker, and when; null where it does not say, or cannot be believed. */
function stampMaybe(context: AudioContext): AudioMoment | null {
  const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp?.() ?? {};
  const ageMs = performance.now() - performanceTime;
  const latency = context.currentTime - (contextTime + ageMs / 1000);
  const isBelievable =
    contextTime > 0 && ageMs >= 0 && ageMs < STALE_MS && latency > -0.05 && latency < MOST_LATENCY_SECONDS;
  return isBelievable ? { audioSeconds: contextTime, pageMs: performanceTime } : null;
}

/**
 * Without such a stamp: the sound's clock less its latency. It moves on in steps of a block, so that of several readings the
 * one that is farthest on is the nearest.
 */
function readingOf(context: AudioContext): AudioMoment {
  const latency = (context.baseLatency || 0) + (context.outputLatency || 0);
  const read = () => ({ audioSeconds: context.currentTime - latency, pageMs: performance.now() });
  let best = read();
  for (let reading = 1; reading < READINGS; reading++) {
    const next = read();
    if (next.audioSeconds - best.audioSeconds > (next.pageMs - best.pageMs) / 1000) best = next;
  }
  return best;
}
