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
/** Nearer to one another no two beats of a run lie. */
const SAME_BEAT_SECONDS = 0.05;

interface Pending {
  readonly click: RunClick;
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
        now > start ? now - start : -Infinity,
        fallIn?.(now + SOON_SECONDS - start) ?? -Infinity,
      ),
      leftOut: 0,
      pending: [],
    };
    this.wake();
  }

  /**
   * Goes on with other sounds from a moment of the run: what was handed over for that moment and after is taken back and
   * asked for anew, what comes before stays. Both must agree up to there. Where that takes so long to work out that a sound
   * could not come in time any more, the one that was handed over before stays: no beat is lost, and none comes twice. Who
   * can say it for a later moment has everything left as it was instead, and gets false.
   */
  change(sounds: RunSounds, fromRunSeconds: number, { mayBeLate = true } = {}): boolean {
    const { running } = this;
    if (!running) return true;
    const from = fromRunSeconds - SAME_MOMENT_SECONDS;
    const toSeconds = this.aheadSeconds(running);
    const fromSeconds = Math.min(running.handedOverTo, from);
    const asked = toSeconds > fromSeconds ? sounds.clicksIn({ fromSeconds, toSeconds }) : [];
    const anew = Math.max(from, this.soon(running));
    const isLate = (runSeconds: number) => runSeconds >= from && runSeconds < anew;
    const wouldBeLate =
      asked.some(({ timeSeconds }) => isLate(timeSeconds)) ||
      running.pending.some(({ runSeconds }) => isLate(runSeconds));
    if (wouldBeLate && !mayBeLate) return false;
    running.sounds = sounds;
    running.handedOverTo = Math.max(fromSeconds, toSeconds);
    this.exchange(running, this.fallenIn(running, asked), from);
    return true;
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
    this.handOver(running, this.clicksAhead(running));
    if (now - running.startSeconds > running.sounds.lengthSeconds) this.end(running);
  }

  /** The clicks of the next seconds that were not asked for yet. */
  private clicksAhead(running: Running): readonly RunClick[] {
    const toSeconds = this.aheadSeconds(running);
    const fromSeconds = running.handedOverTo;
    if (toSeconds <= fromSeconds) return [];
    running.handedOverTo = toSeconds;
    return this.fallenIn(running, running.sounds.clicksIn({ fromSeconds, toSeconds }));
  }

  /** Up to this moment of the run sounds are handed over now. */
  private aheadSeconds({ startSeconds }: Running): number {
    return this.output.nowSeconds() + SCHEDULE_AHEAD_SECONDS - startSeconds;
  }

  private handOver(running: Running, clicks: readonly RunClick[]): void {
    const [first] = clicks;
    const begins = running.mayBeginLater && first !== undefined;
    running.mayBeginLater = false;
    if (begins) this.begin(running, first);
    for (const click of begins ? clicks.slice(1) : clicks) {
      this.offer(running, click);
      if (this.running !== running) return;
    }
  }

  /**
   * Hands over other sounds from a moment of the run on, each before those it stands for are taken back: whoever is held up
   * in the middle of it hears the old beats, and no gap. What is the same in both, or cannot be taken back in time, stays.
   */
  private exchange(running: Running, clicks: readonly RunClick[], from: number): void {
    let old = running.pending.filter(({ runSeconds }) => runSeconds >= from);
    const takeBackTo = (toRunSeconds: number) => {
      const soon = this.soon(running);
      const back = new Set(old.filter(({ runSeconds }) => runSeconds >= soon && runSeconds < toRunSeconds));
      for (const { sound } of back) sound.cancel();
      running.pending = running.pending.filter((pending) => !back.has(pending));
      old = old.filter((pending) => !back.has(pending));
    };
    for (const click of clicks) {
      const same = old.find((pending) => isSame(pending.click, click));
      if (same) {
        old = old.filter((pending) => pending !== same);
        takeBackTo(click.timeSeconds - SAME_BEAT_SECONDS);
        continue;
      }
      const soon = this.soon(running);
      const stays = Math.max(...old.map(({ runSeconds }) => (runSeconds < soon ? runSeconds : -Infinity)));
      if (click.timeSeconds < stays + SAME_BEAT_SECONDS) continue;
      const isInTime = this.offer(running, click);
      if (this.running !== running) return;
      if (!isInTime) continue;
      const late = this.soon(running);
      const isTwice = old.some(
        ({ runSeconds }) => runSeconds < late && Math.abs(runSeconds - click.timeSeconds) < SAME_BEAT_SECONDS,
      );
      // Handing it over took so long that the old one stays.
      if (isTwice) running.pending.pop()?.sound.cancel();
      else takeBackTo(click.timeSeconds + SAME_BEAT_SECONDS);
    }
    takeBackTo(Infinity);
  }

  /** Hands a click over as the run's clock has it, or gives the run up; false for one that would come late. */
  private offer(running: Running, click: RunClick): boolean {
    if (!this.glide(running, click.timeSeconds)) return false;
    const isInTime = this.comesInTime(running, click);
    if (!isInTime) running.leftOut++;
    return isInTime;
  }

  /** Hands over the first click. Getting that far may take long where the cores are busy; the run begins later then. */
  private begin(running: Running, first: RunClick): void {
    let delay = START_DELAY_SECONDS;
    const isSoon = () => running.startSeconds - this.output.nowSeconds() < LEAST_DELAY_SECONDS;
    while (isSoon() || !this.comesInTime(running, first)) {
      running.startSeconds = toSample(this.output.nowSeconds() + delay, this.output.sampleRate);
      delay *= 2;
    }
  }

  /** Hands a click over; false for one that would come late, and is left out: a late click misleads more than none. */
  private comesInTime(running: Running, click: RunClick): boolean {
    const whenSeconds = this.dueAt(running, click);
    if (whenSeconds < this.output.nowSeconds()) return false;
    const sound = this.output.schedule(click, whenSeconds);
    const isInTime = this.output.nowSeconds() <= whenSeconds;
    if (isInTime) running.pending.push({ click, whenSeconds, runSeconds: click.timeSeconds, sound });
    else sound.cancel();
    return isInTime;
  }

  /** Where others share the run it does not wait: it is begun farther on by whom the first clicks took too long. */
  private fallenIn(running: Running, clicks: readonly RunClick[]): readonly RunClick[] {
    const { fallIn, lastDueAt } = running;
    const [first] = clicks;
    if (!fallIn || lastDueAt !== null || !first) return clicks;
    const soon = this.soon(running);
    if (first.timeSeconds >= soon) return clicks;
    const from = fallIn(soon) ?? soon;
    running.handedOverTo = Math.max(running.handedOverTo, from);
    return clicks.filter(({ timeSeconds }) => timeSeconds >= from);
  }

  /** The first moment of the run for which a sound that is handed over now comes in time. */
  private soon({ startSeconds, shiftSeconds }: Running): number {
    return this.output.nowSeconds() + SOON_SECONDS - startSeconds - shiftSeconds;
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

/** Whether two clicks are heard alike, at the same moment. */
function isSame(a: RunClick, b: RunClick): boolean {
  if (Math.abs(a.timeSeconds - b.timeSeconds) > SAME_MOMENT_SECONDS) return false;
  const names = Object.keys({ ...a, ...b }) as Array<keyof RunClick>;
  return names.every((name) => name === 'timeSeconds' || a[name] === b[name]);
}

/** round(t × rate): the error is at most half a sample, whatever the length of the piece. */
function toSample(seconds: number, sampleRate: number): number {
  return Math.round(seconds * sampleRate) / sampleRate;
}
