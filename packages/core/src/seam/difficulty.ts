import { equal, toNumber, type Fraction } from '../fraction/fraction.ts';
import { barLength, type Bar } from '../piece/piece.ts';
import { commonestBeat, feltBeats, pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { shortestNoteMaybe, type Rhythm } from '../rhythm/rhythm.ts';
import type { Carry } from './carry.ts';

/** What a difficulty is made of. */
export const DIFFICULTY_PARTS = [
  'tempo jump',
  'carry',
  'subdivision',
  'odd bar',
  'new pulse note',
  'grouping',
  'speed',
  'notes',
  'in the bar',
] as const;
export type DifficultyPart = (typeof DIFFICULTY_PARTS)[number];

/**
 * The most points each part can give; together 100. This is the one place to change what counts for how much;
 * docs/difficulty.md explains each.
 */
export const DIFFICULTY_WEIGHTS: Readonly<Record<DifficultyPart, number>> = {
  'tempo jump': 24,
  carry: 16,
  subdivision: 7,
  'odd bar': 18,
  'new pulse note': 7,
  grouping: 9,
  speed: 4,
  notes: 5,
  'in the bar': 10,
};

/** Whole points by part, in the order of DIFFICULTY_PARTS, and their sum, 0 to 100. */
export interface Difficulty {
  readonly score: number;
  readonly points: readonly number[];
}

/** What happens in the bar that is entered, or on the way there, besides a change at the barline. */
export type SeamTurn = 'ramp' | 'hold' | 'tempo inside' | 'open repeat' | 'jump';

/** What is looked at on both sides of a seam. Rates are in whole notes per minute. */
export interface SeamSides {
  readonly before: Bar;
  readonly after: Bar;
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly carry: Carry | null;
  readonly turns: readonly SeamTurn[];
  /** An odd bar is left for bars like those before it: the place was hard on the way in. */
  readonly leavesOdd: boolean;
}

const EASY_BPM = 120;
const HARDEST_BPM = 200;
/** A tempo this little faster or slower is the same beat. */
export const SAME_BEAT = 0.05;
/** Octaves of an unrelated tempo that are as hard as it gets. */
const HARDEST_OCTAVES = 0.6;
/** Jumps by simple ratios are easier than others of their size, by this much. */
const SIMPLE_RATIOS: ReadonlyArray<readonly [ratio: number, ease: number]> = [
  [2, 0.35],
  [3 / 2, 0.55],
  [3, 0.5],
  [4, 0.45],
  [4 / 3, 0.65],
];
/** The same notes with another number of them in a beat: the hand changes, not what is played. */
const SAME_NOTES_EASE = 0.3;
/** Everybody waits before the anchor, and comes in anew. */
const PAUSE_EASE = 0.55;
/** Long notes on either side leave time to find the beat. */
const LONG_NOTES_EASE = 0.75;

/** How much of the part "in the bar" each turn takes. */
const TURN_SHARES: Readonly<Record<SeamTurn, number>> = {
  ramp: 0.7,
  hold: 0.5,
  'tempo inside': 1,
  'open repeat': 0.4,
  jump: 0.6,
};

export function difficultyOf(sides: SeamSides, weights = DIFFICULTY_WEIGHTS): Difficulty {
  const ease = easeOf(sides);
  const [wasSeconds, isSeconds] = comparedSeconds(sides);
  const compared = { ...sides, ...comparedBeats(sides), wasSeconds, isSeconds };
  const exact = DIFFICULTY_PARTS.map((part) => ease * weights[part] * clamp(SHARES[part](compared)));
  const score = Math.round(exact.reduce((total, value) => total + value, 0));
  return { points: roundedTo(exact, score), score };
}

/** Whole numbers near some values that add up to a total: those rounded up lose least by it. */
function roundedTo(values: readonly number[], total: number): readonly number[] {
  const rounded = values.map(Math.floor);
  let left = total - rounded.reduce((sum, value) => sum + value, 0);
  const byRest = values.map((value, index) => [value - Math.floor(value), index] as const);
  byRest.sort(([a, i], [b, j]) => b - a || i - j);
  for (const [, index] of byRest) {
    if (left <= 0) break;
    rounded[index] = (rounded[index] ?? 0) + 1;
    left--;
  }
  return rounded;
}

/** The two bars that meet, at their rates. */
export type SeamMeets = Pick<SeamSides, 'before' | 'after' | 'rateBefore' | 'rateAfter'>;

/**
 * The beats that are held against each other: the one both bars have, lasting equally long, where there is one; else the
 * one each has most of.
 */
export function comparedBeats({ before, after, rateBefore, rateAfter }: SeamMeets) {
  const [beatsBefore, beatsAfter] = [feltBeats(before), feltBeats(after)];
  const [was, is] = [commonestBeat(beatsBefore), commonestBeat(beatsAfter)];
  const lastsAs = (a: PulseBeat, rateA: Fraction, b: PulseBeat, rateB: Fraction) =>
    Math.abs(secondsOfBeat(a, rateA) / secondsOfBeat(b, rateB) - 1) < 0.01;
  const isShared = beatsAfter.find((beat) => lastsAs(beat, rateAfter, was, rateBefore));
  if (isShared) return { was, is: isShared };
  const wasShared = beatsBefore.find((beat) => lastsAs(beat, rateBefore, is, rateAfter));
  return { was: wasShared ?? was, is };
}

function secondsOfBeat({ lengthWholes }: PulseBeat, rate: Fraction): number {
  return (60 * toNumber(lengthWholes)) / toNumber(rate);
}

/** Seconds of the beats that are held against each other. */
function comparedSeconds(meets: SeamMeets): readonly [was: number, is: number] {
  const { was, is } = comparedBeats(meets);
  return [secondsOfBeat(was, meets.rateBefore), secondsOfBeat(is, meets.rateAfter)];
}

/** The sides of a seam with the beats that are held against each other, and how long each lasts. */
interface ComparedSides extends SeamSides {
  readonly was: PulseBeat;
  readonly is: PulseBeat;
  readonly wasSeconds: number;
  readonly isSeconds: number;
}

/** How much of each part's weight a seam takes, 0 to 1. */
const SHARES: Readonly<Record<DifficultyPart, (sides: ComparedSides) => number>> = {
  'tempo jump': (sides) => {
    const ratio = sides.isSeconds / sides.wasSeconds;
    const octaves = Math.abs(Math.log2(ratio));
    const larger = Math.max(ratio, 1 / ratio);
    const simple = SIMPLE_RATIOS.find(([known]) => Math.abs(larger / known - 1) < 0.01)?.[1] ?? 1;
    const notes = hasSameNotes(sides) ? SAME_NOTES_EASE : 1;
    return Math.min(1, octaves / HARDEST_OCTAVES) * simple * notes;
  },
  carry: (sides) => {
    const { carry } = sides;
    if (carry) return (complexity(carry.before) + complexity(carry.after)) / 4;
    const octaves = Math.abs(Math.log2(sides.isSeconds / sides.wasSeconds));
    return octaves < Math.log2(1 + SAME_BEAT) ? 0.15 : Math.min(1, 0.25 + octaves / HARDEST_OCTAVES);
  },
  subdivision: (sides) => {
    if (hasSameNotes(sides)) return 0;
    const { was, is, wasSeconds, isSeconds } = sides;
    return Math.abs(Math.log2(isSeconds / is.parts / (wasSeconds / was.parts)));
  },
  'odd bar': (sides) => (oddSecondsMaybe(sides) === null ? 0 : sides.leavesOdd ? 0.35 : 1),
  'new pulse note': (sides) => {
    const { was, is, wasSeconds, isSeconds } = sides;
    const ratio = toNumber(was.lengthWholes) / toNumber(is.lengthWholes);
    if (Math.abs(ratio - 1) < 1e-12) return 0;
    const isEasy = Math.abs(isSeconds / wasSeconds - 1) < 0.01 || Number.isInteger(Math.log2(ratio));
    return isEasy ? 0.3 : 1;
  },
  grouping: ({ after, leavesOdd }) => {
    const beats = pulseOf(after);
    const common = commonestBeat(beats).lengthWholes;
    const uneven = beats.filter((beat) => !equal(beat.lengthWholes, common));
    return leavesOdd ? 0 : (2 * uneven.length) / Math.max(1, beats.length);
  },
  speed: ({ after, rateAfter }) => (60 / beatSeconds(after, rateAfter) - EASY_BPM) / (HARDEST_BPM - EASY_BPM),
  notes: ({ before, after, rateBefore, rateAfter }) => {
    const fastest = Math.max(
      notesPerSecond(before.rhythm, rateBefore),
      notesPerSecond(after.rhythm, rateAfter),
    );
    return (fastest - EASY_NOTES) / (HARDEST_NOTES - EASY_NOTES);
  },
  'in the bar': ({ turns }) => turns.reduce((most, turn) => Math.max(most, TURN_SHARES[turn]), 0),
};

const EASY_NOTES = 2;
const HARDEST_NOTES = 10;

function notesPerSecond(rhythm: Rhythm | undefined, rate: Fraction): number {
  const shortest = rhythm && shortestNoteMaybe(rhythm);
  return shortest ? toNumber(rate) / 60 / shortest : 0;
}

/**
 * By how many seconds the bar after is longer than the bar before, where that is less than a beat and the beat goes on:
 * an odd bar. Null where it is none: lengths are those one hears, so that a kept pulse in other notes is not odd.
 */
export function oddSecondsMaybe(meets: SeamMeets): number | null {
  const { before, after, rateBefore, rateAfter } = meets;
  if (before.partial || after.partial) return null;
  const [was, is] = comparedSeconds(meets);
  const goesOn = Math.abs(is / was - 1) < 0.01 || isNearlySame(rateBefore, rateAfter);
  const difference = barSeconds(after, rateAfter) - barSeconds(before, rateBefore);
  const isOdd = goesOn && Math.abs(difference) > 0.01 * was && Math.abs(difference) < was * 0.99;
  return isOdd ? difference : null;
}

function isNearlySame(a: Fraction, b: Fraction): boolean {
  return Math.abs(toNumber(a) / toNumber(b) - 1) < 1e-9;
}

/** The same notes at the same tempo on both sides, only beaten otherwise. */
function hasSameNotes({ rateBefore, rateAfter }: SeamSides): boolean {
  return isNearlySame(rateBefore, rateAfter);
}

function easeOf({ before, after, rateBefore, rateAfter }: SeamSides): number {
  if (endsInPause(before)) return PAUSE_EASE;
  const isLong = (rhythm: Rhythm | undefined, rate: Fraction, bar: Bar, last: boolean) => {
    const note = last ? rhythm?.at(-1) : rhythm?.[0];
    const length = note && !note.isRest ? shortestNoteMaybe([note]) : null;
    return length !== null && (60 * length) / toNumber(rate) >= 1.9 * beatSeconds(bar, rate);
  };
  return isLong(before.rhythm, rateBefore, before, true) || isLong(after.rhythm, rateAfter, after, false)
    ? LONG_NOTES_EASE
    : 1;
}

/** Everybody rests in the bar, or it ends with a hold or a breath. */
function endsInPause({ holds = [], rhythm, ...bar }: Bar): boolean {
  if (rhythm && rhythm.length > 0 && rhythm.every(({ isRest }) => isRest)) return true;
  const lastBeat = pulseOf({ ...bar, holds }).at(-1);
  return holds.some(
    ({ kind, atWholes }) =>
      kind === 'breath' || (lastBeat && toNumber(atWholes) >= toNumber(lastBeat.atWholes) - 1e-12),
  );
}

/** Plain 0, dotted 1, triplet 2, and what nobody feels 4. */
function complexity({ dots, tuplets }: Carry['before']): number {
  const [tuplet] = tuplets;
  if (!tuplet) return Math.min(2, dots);
  return tuplet.actual === 3 ? 2 : 4;
}

/** Seconds of the beat that a bar goes by. */
export function beatSeconds(bar: Bar, rate: Fraction): number {
  return (60 * toNumber(commonestBeat(feltBeats(bar)).lengthWholes)) / toNumber(rate);
}

function barSeconds(bar: Bar, rate: Fraction): number {
  return (60 * toNumber(barLength(bar))) / toNumber(rate);
}

function clamp(value: number): number {
  return Math.min(1, Math.max(0, value));
}
