import type { ClickKind } from '../click/clickPlan.ts';
import type { CountOff } from '../countoff/countOff.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { RunSettings } from './settings.ts';

/** One sound of a run. Times count from the run's own start, which is the first count-off beat. */
export interface RunClick {
  readonly timeSeconds: number;
  readonly kind: ClickKind;
  /** MIDI note of a beat that is sung or played on a tone instead of clicked. */
  readonly pitch?: number;
  /** What is said instead of the click, if it can be said before the next beat, so many seconds on. */
  readonly word?: string;
  /** Said instead of a word that is not recorded. */
  readonly ownWord?: string;
  readonly roomSeconds?: number;
  /** Where the word cannot be said nothing sounds: a click would be taken for a beat. */
  readonly isOnlySaid?: true;
  /** Which simulated section plays it, from 0; the program's own clicks have none. */
  readonly part?: number;
}

/**
 * A stretch of a run in which time runs evenly against what it plays: from `fromSeconds` of the piece (or of its
 * count-off) on, `pace` seconds of it in every second. While it waits or holds, the piece stands still.
 */
export interface RunStretch {
  readonly kind: 'countOff' | 'music' | 'hold' | 'waiting' | 'cue';
  readonly runSeconds: number;
  /** Infinite while waiting for a cue. */
  readonly lengthSeconds: number;
  readonly fromSeconds: number;
  readonly pace: number;
  readonly countOff: CountOff | null;
  /** How the run was wanted when this was planned: what is heard of it follows from that. */
  readonly settings: RunSettings;
}

/** What is said before a run's count-off, and how long it takes. */
export interface RunCall {
  readonly word: string;
  readonly lengthSeconds: number;
}

const CALL_SECONDS = 1.5;

/** What is called before a run; null for a run before which nothing is. */
export function runCallMaybe(word: string | null): RunCall | null {
  return word === null ? null : { word, lengthSeconds: CALL_SECONDS };
}

/**
 * What is played when in a run, from its count-off on. Plain data; what sounds follows from it for any window of time
 * (`clicksIn`), and so do its beats (`beatsIn`).
 */
export interface RunPlan {
  readonly stretches: readonly RunStretch[];
  /** The stretches from this one on come again and again, every so many seconds, without end. */
  readonly endless: { readonly fromStretch: number; readonly lengthSeconds: number } | null;
  readonly call: RunCall | null;
  readonly countOff: CountOff;
  /** Seconds of the piece at which the run enters, after the count-off. */
  readonly entrySeconds: number;
  /** Infinite where the run waits for a cue or goes round without end. */
  readonly lengthSeconds: number;
  /** Open repeats of which it was said: go on. By the performed bar they start at. */
  readonly decided: readonly number[];
}

/**
 * The stretches that a window of a run touches, in order; of a run that goes round without end as many rounds as it
 * touches. A window that ends at Infinity then has no last one.
 */
export function* stretchesIn(plan: RunPlan, fromSeconds: number, toSeconds: number): Generator<RunStretch> {
  const { stretches, endless } = plan;
  const onceCount = endless ? endless.fromStretch : stretches.length;
  for (let index = lastBegun(stretches, onceCount, fromSeconds); index < onceCount; index++) {
    const stretch = stretches[index] as RunStretch;
    if (stretch.runSeconds >= toSeconds) return;
    if (endOf(stretch) > fromSeconds) yield stretch;
  }
  if (!endless) return;
  const round = stretches.slice(onceCount);
  const roundStart = round[0]?.runSeconds ?? 0;
  let turn = Math.max(0, Math.floor((fromSeconds - roundStart) / endless.lengthSeconds - 1e-6));
  for (; ; turn++)
    for (const stretch of round) {
      const runSeconds = stretch.runSeconds + turn * endless.lengthSeconds;
      if (runSeconds >= toSeconds) return;
      const turned = turn === 0 ? stretch : { ...stretch, runSeconds };
      if (endOf(turned) > fromSeconds) yield turned;
    }
}

function endOf({ runSeconds, lengthSeconds }: RunStretch): number {
  return runSeconds + lengthSeconds;
}

/** Index of the last of the first `count` stretches that has begun by a time; 0 where none has. */
function lastBegun(stretches: readonly RunStretch[], count: number, seconds: number): number {
  let [low, high] = [0, count - 1];
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((stretches[middle]?.runSeconds ?? Infinity) <= seconds) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The stretch that a moment of the run lies in; null after its end. Before the start it is the first one. */
export function stretchAtMaybe(plan: RunPlan, runSeconds: number): RunStretch | null {
  if (runSeconds >= plan.lengthSeconds) return null;
  for (const stretch of stretchesIn(plan, runSeconds, Infinity)) return stretch;
  return null;
}

/** Seconds of what a stretch plays, at a moment of the run. */
export function playedSeconds(stretch: RunStretch, runSeconds: number): number {
  return (
    stretch.fromSeconds + (runSeconds - stretch.runSeconds) * (stretch.kind === 'hold' ? 0 : stretch.pace)
  );
}

/** Whether something at a time of what a stretch plays falls into the stretch: not before it, nor at its end. */
export function isPlayedIn(stretch: RunStretch, seconds: number): boolean {
  const { fromSeconds, lengthSeconds, pace } = stretch;
  return (
    seconds >= fromSeconds - SAME_MOMENT_SECONDS &&
    seconds < fromSeconds + lengthSeconds * pace - SAME_MOMENT_SECONDS
  );
}

/** The moment of the run at which a stretch plays something; the inverse of `playedSeconds` where the music goes on. */
export function runSecondsOf(stretch: RunStretch, seconds: number): number {
  return stretch.runSeconds + (seconds - stretch.fromSeconds) / stretch.pace;
}

/** Seconds of the piece at which the music enters after a count-off of a plan. */
export function entryAfter(plan: RunPlan, { runSeconds, lengthSeconds }: RunStretch): number {
  const end = runSeconds + lengthSeconds;
  for (const next of stretchesIn(plan, end - SAME_MOMENT_SECONDS, Infinity))
    if (next.kind !== 'countOff') return next.fromSeconds;
  return plan.entrySeconds;
}
