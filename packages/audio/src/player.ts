import type { RunClick, RunPlan } from '@anchorbeat/core';
import type { ScheduledSound, SoundOutput, WakeTimer } from './ports.ts';

/** Sound is handed over this far ahead, so that a page blocked for two seconds loses nothing. */
export const SCHEDULE_AHEAD_SECONDS = 4;
const WAKE_PERIOD_SECONDS = 0.25;
/** From the key to the first click: enough for the output to be ready. */
const START_DELAY_SECONDS = 0.12;
/** A click that could only come later than this is left out: a late click misleads more than none. */
const LATE_SECONDS = 0.002;

/** Two moments of a run closer than this are one. */
const SAME_MOMENT_SECONDS = 1e-6;

interface Pending {
  readonly whenSeconds: number;
  readonly runSeconds: number;
  readonly sound: ScheduledSound;
}

interface Running {
  plan: RunPlan;
  readonly startSeconds: number;
  readonly onEnd: () => void;
  readonly stopTimer: () => void;
  nextClick: number;
  leftOut: number;
  pending: Pending[];
}

/**
 * Plays run plans on a sound output. A timer only wakes it; each time it hands over every click that
 * falls due within the next seconds, at the sample nearest to the click's ideal time.
 */
export class Player {
  private running: Running | null = null;

  constructor(
    private readonly output: SoundOutput,
    private readonly timer: WakeTimer,
  ) {}

  /** Starts a run from its count-off; one that is running is stopped first. */
  async start(plan: RunPlan, onEnd: () => void): Promise<void> {
    this.stop();
    await this.output.resume();
    this.stop();
    this.running = {
      plan,
      startSeconds: toSample(this.output.nowSeconds() + START_DELAY_SECONDS, this.output.sampleRate),
      onEnd,
      stopTimer: this.timer.every(WAKE_PERIOD_SECONDS, () => this.wake()),
      nextClick: 0,
      leftOut: 0,
      pending: [],
    };
    this.wake();
  }

  /**
   * Goes on with another plan from a moment of the run: what was handed over for that moment and after is taken back and
   * planned anew, what comes before stays. The plans must agree up to there.
   */
  change(plan: RunPlan, fromRunSeconds: number): void {
    const { running } = this;
    if (!running) return;
    const isAfter = (runSeconds: number) => runSeconds >= fromRunSeconds - SAME_MOMENT_SECONDS;
    for (const { runSeconds, sound } of running.pending) if (isAfter(runSeconds)) sound.cancel();
    running.pending = running.pending.filter(({ runSeconds }) => !isAfter(runSeconds));
    running.plan = plan;
    const next = plan.clicks.findIndex(({ timeSeconds }) => isAfter(timeSeconds));
    running.nextClick = next < 0 ? plan.clicks.length : next;
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
    if (now - running.startSeconds > running.plan.lengthSeconds) this.end(running);
  }

  private handOver(running: Running, now: number): void {
    const until = now + SCHEDULE_AHEAD_SECONDS;
    for (;;) {
      const click = running.plan.clicks[running.nextClick];
      if (!click) return;
      const whenSeconds = this.dueAt(running, click);
      if (whenSeconds >= until) return;
      running.nextClick++;
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

  private end(running: Running): void {
    this.stop();
    running.onEnd();
  }
}

/** round(t × rate): the error is at most half a sample, whatever the length of the piece (timing.md, Click). */
function toSample(seconds: number, sampleRate: number): number {
  return Math.round(seconds * sampleRate) / sampleRate;
}
