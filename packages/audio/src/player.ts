import { SAME_MOMENT_SECONDS, type RunClick, type RunSounds } from '@anchorbeat/core';
import type { ScheduledSound, SoundOutput, WakeTimer } from './ports.ts';

/** Sound is handed over this far ahead, so that a page blocked for two seconds loses nothing. */
export const SCHEDULE_AHEAD_SECONDS = 4;
const WAKE_PERIOD_SECONDS = 0.25;
/** From the key to the first click: enough for the output to be ready. */
const START_DELAY_SECONDS = 0.12;
/** So much of it is left when the first click is handed over, or the run begins later. */
const LEAST_DELAY_SECONDS = 0.06;
/** What is handed over so long before it is due comes in time. */
const SOON_SECONDS = 0.02;
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
  startSeconds: number;
  /** Nobody said when it begins, and nothing of it has been handed over. */
  mayBeginLater: boolean;
  readonly clock: RunClock | null;
  readonly fallIn: FallIn | null;
  /** How much later than counted from its start the run is now, by its clock; it only glides. */
  shiftSeconds: number;
  /** The last moment of the run for which a sound was handed over; null before the first. */
  lastDueAt: number | null;
  readonly onEnd: () => void;
  readonly stopTimer: () => void;
  /** Everything before this moment of the run has been handed over. */
  handedOverTo: number;
  leftOut: number;
  pending: Pending[];
}

/** The clock of a run that many devices share: it may turn out to go a little faster or slower than this one's sound. */
interface RunClock {
  /** When a moment of the run is due on the output's clock, as far as is known now. */
  readonly dueSeconds: (runSeconds: number) => number;
  /** Called once when the sound is so far off that gliding would take too long: the run is given up. */
  readonly onAdrift: () => void;
}

/**
 * Where in a run one begins who can sound from a moment of it on, in seconds of the run: -Infinity with the run itself; null
 * where nothing is left to begin with, so that one begins with the next click.
 */
type FallIn = (runSeconds: number) => number | null;

/** From one sound to the next it glides by at most so much, and so much of the time between them: nobody hears it. */
const GLIDE_SECONDS = 0.0005;
const GLIDE_SHARE = 0.001;
/** Farther off than this the sound stops, since it would mislead. */
const ADRIFT_SECONDS = 0.025;

export interface PlayerStart {
  /**
   * When the run begins on the output's clock; shortly from now where it is not said. A time that has passed joins the run
   * in the middle: it sounds from the first click that can still come in time.
   */
  readonly startSeconds?: number;
  /** Says when the run is due where others play it too; its start is then said by it alone. */
  readonly clock?: RunClock;
  /**
   * Where one begins who comes too late for the first click, however late that turns out to be: what comes before is not
   * sounded. The next click that can still come in time where it is not said.
   */
  readonly fallIn?: FallIn;
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
  async start(sounds: RunSounds, { startSeconds, clock, fallIn, onEnd }: PlayerStart): Promise<void> {
    this.stop();
    await this.output.resume();
    this.stop();
    const now = this.output.nowSeconds();
    const start =
      clock?.dueSeconds(0) ?? startSeconds ?? toSample(now + START_DELAY_SECONDS, this.output.sampleRate);
    this.running = {
      sounds,
      startSeconds: start,
      mayBeginLater: !clock && startSeconds === undefined,
      clock: clock ?? null,
      fallIn: fallIn ?? null,
      shiftSeconds: 0,
      lastDueAt: null,
      onEnd,
      stopTimer: this.timer.every(WAKE_PERIOD_SECONDS, () => this.wake()),
      handedOverTo: Math.max(
        now > start ? now - start - LATE_SECONDS : -Infinity,
        fallIn?.(now - start + SOON_SECONDS) ?? -Infinity,
      ),
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
    const { running, output } = this;
    if (!running) return null;
    return output.nowSeconds() - output.latencySeconds() - running.startSeconds - running.shiftSeconds;
  }

  /** Seconds of the run that leave the output at a moment of its clock, or null when nothing runs. */
  runSecondsAtMaybe(outputSeconds: number): number | null {
    const { running } = this;
    return running && outputSeconds - running.startSeconds - running.shiftSeconds;
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
    const clicks = running.sounds.clicksIn({ fromSeconds, toSeconds });
    this.beginInTime(running);
    for (const click of this.fallenIn(running, clicks)) {
      if (!this.glide(running, click.timeSeconds)) return;
      const whenSeconds = this.dueAt(running, click);
      if (whenSeconds < now - LATE_SECONDS) running.leftOut++;
      else {
        const sound = this.output.schedule(click, whenSeconds);
        running.pending.push({ whenSeconds, runSeconds: click.timeSeconds, sound });
      }
    }
  }

  /** Working out the first clicks may take long where the cores are busy; the first is never late for that. */
  private beginInTime(running: Running): void {
    if (!running.mayBeginLater) return;
    running.mayBeginLater = false;
    const now = this.output.nowSeconds();
    if (running.startSeconds - now < LEAST_DELAY_SECONDS)
      running.startSeconds = toSample(now + START_DELAY_SECONDS, this.output.sampleRate);
  }

  /** Where others share the run it does not wait: it is begun farther on by whom the first clicks took too long. */
  private fallenIn(running: Running, clicks: readonly RunClick[]): readonly RunClick[] {
    const { fallIn, lastDueAt, startSeconds } = running;
    const [first] = clicks;
    if (!fallIn || lastDueAt !== null || !first) return clicks;
    const soon = this.output.nowSeconds() - startSeconds + SOON_SECONDS;
    if (first.timeSeconds >= soon) return clicks;
    const from = fallIn(soon) ?? soon;
    running.handedOverTo = Math.max(running.handedOverTo, from);
    return clicks.filter(({ timeSeconds }) => timeSeconds >= from);
  }

  private dueAt({ startSeconds, shiftSeconds }: Running, { timeSeconds }: RunClick): number {
    return toSample(startSeconds + shiftSeconds + timeSeconds, this.output.sampleRate);
  }

  /** Moves the run toward its clock, as far as nobody hears it; false where it is given up. */
  private glide(running: Running, runSeconds: number): boolean {
    const { clock, startSeconds, lastDueAt } = running;
    if (!clock) return true;
    const wanted = clock.dueSeconds(runSeconds) - runSeconds - startSeconds;
    const isFirst = lastDueAt === null;
    const off = wanted - running.shiftSeconds;
    if (!isFirst && Math.abs(off) > ADRIFT_SECONDS) {
      this.stop();
      clock.onAdrift();
      return false;
    }
    const most = isFirst ? Infinity : GLIDE_SECONDS + GLIDE_SHARE * Math.max(0, runSeconds - lastDueAt);
    running.shiftSeconds += Math.max(-most, Math.min(most, off));
    running.lastDueAt = runSeconds;
    return true;
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
