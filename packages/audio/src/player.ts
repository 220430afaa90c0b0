import { SAME_MOMENT_SECONDS, type RunClick, type RunSounds } from '@anchorbeat/core';
import type { ScheduledSound, SoundOutput, WakeTimer } from './ports.ts';

/** Sound is handed over this far ahead, so that a page blocked for two seconds loses nothing. */
export const SCHEDULE_AHEAD_SECONDS = 4;
const WAKE_PERIOD_SECONDS = 0.25;
/** From the key to the first click: enough for the output to be ready. */
const START_DELAY_SECONDS = 0.12;
/** A click that could only come later than this is left out: a late click misleads more than none. */
const LATE_SECONDS = 0.002;

interface Pending {
  readonly whenSeconds: number;
  readonly runSeconds: number;
  readonly sound: ScheduledSound;
}

interface Running {
  sounds: RunSounds;
  /** When the run began, or would have begun, on the output's clock. */
  readonly startSeconds: number;
  readonly onEnd: () => void;
  readonly stopTimer: () => void;
  /** Everything before this moment of the run has been handed over. */
  handedOverTo: number;
  leftOut: number;
  pending: Pending[];
}

export interface PlayerStart {
  /**
   * When the run begins on the output's clock; shortly from now where it is not said. A time that has passed joins the run
   * in the middle: it sounds from the first click that can still come in time.
   */
  readonly startSeconds?: number;
  readonly onEnd: () => void;
}

/**
 * Plays a run on a sound output. A timer only wakes it; each time it asks for the sounds of the next seconds that it has not
 * asked for yet and hands them over, each at the sample nearest to its ideal time.
 */
export class Player {
  private running: Running | null = null;

  constructor(
    private readonly output: SoundOutput,
    private readonly timer: WakeTimer,
  ) {}

  /** Starts a run from its count-off, or joins one that began before; one that is running is stopped first. */
  async start(sounds: RunSounds, { startSeconds, onEnd }: PlayerStart): Promise<void> {
    this.stop();
    await this.output.resume();
    this.stop();
    const now = this.output.nowSeconds();
    const start = startSeconds ?? toSample(now + START_DELAY_SECONDS, this.output.sampleRate);
    this.running = {
      sounds,
      startSeconds: start,
      onEnd,
      stopTimer: this.timer.every(WAKE_PERIOD_SECONDS, () => this.wake()),
      handedOverTo: now > start ? now - start - LATE_SECONDS : -Infinity,
      leftOut: 0,
      pending: [],
    };
    this.wake();
  }

  /**
   * Goes on with other sounds from a moment of the run: what was handed over for that moment and after is taken back and
   * asked for anew, what comes before stays. Both must agree up to there.
   */
  change(sounds: RunSounds, fromRunSeconds: number): void {
    const { running } = this;
    if (!running) return;
    const from = fromRunSeconds - SAME_MOMENT_SECONDS;
    for (const { runSeconds, sound } of running.pending) if (runSeconds >= from) sound.cancel();
    running.pending = running.pending.filter(({ runSeconds }) => runSeconds < from);
    running.sounds = sounds;
    running.handedOverTo = Math.min(running.handedOverTo, from);
    this.wake();
  }

  /** Silences everything at once, also what was handed over ahead. */
  stop(): void {
    const { running } = this;
    if (!running) return;
    this.running = null;
    running.stopTimer();
    for (const { sound } of running.pending) sound.cancel();
  }

  /** Seconds of the run that are heard now (negative just before its first click), or null when nothing runs. */
  runSecondsMaybe(): number | null {
    if (!this.running) return null;
    return this.output.nowSeconds() - this.output.latencySeconds() - this.running.startSeconds;
  }

  /** How many clicks of this run came too late to be played, after a stall longer than the time ahead. */
  get leftOutClicks(): number {
    return this.running?.leftOut ?? 0;
  }

  private wake(): void {
    const { running } = this;
    if (!running) return;
    const now = this.output.nowSeconds();
    running.pending = running.pending.filter(({ whenSeconds }) => whenSeconds > now - 1);
    this.handOver(running, now);
    if (now - running.startSeconds > running.sounds.lengthSeconds) this.end(running);
  }

  private handOver(running: Running, now: number): void {
    const toSeconds = now + SCHEDULE_AHEAD_SECONDS - running.startSeconds;
    const fromSeconds = running.handedOverTo;
    if (toSeconds <= fromSeconds) return;
    running.handedOverTo = toSeconds;
    for (const click of running.sounds.clicksIn({ fromSeconds, toSeconds })) {
      const whenSeconds = this.dueAt(running, click);
      if (whenSeconds < now - LATE_SECONDS) running.leftOut++;
      else {
        const sound = this.output.schedule(click, whenSeconds);
        running.pending.push({ whenSeconds, runSeconds: click.timeSeconds, sound });
      }
    }
  }

  private dueAt(running: Running, click: RunClick): number {
    return toSample(running.startSeconds + click.timeSeconds, this.output.sampleRate);
  }

  /** It is over; what sounds yet may ring out. */
  private end(running: Running): void {
    this.running = null;
    running.stopTimer();
    running.onEnd();
  }
}

/** round(t × rate): the error is at most half a sample, whatever the length of the piece. */
function toSample(seconds: number, sampleRate: number): number {
  return Math.round(seconds * sampleRate) / sampleRate;
}
