import { equal, toNumber, type Fraction } from '../fraction/fraction.ts';
import type { PulseBeat } from '../pulse/pulse.ts';
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
] as const;
export type DifficultyPart = (typeof DIFFICULTY_PARTS)[number];

/**
 * The most points each part can give; together 100. This is the one place to change what counts for how much;
 * docs/difficulty.md explains each.
 */
export const DIFFICULTY_WEIGHTS: Readonly<Record<DifficultyPart, number>> = {
  'tempo jump': 25,
  carry: 20,
  subdivision: 13,
  'odd bar': 15,
  'new pulse note': 12,
  grouping: 10,
  speed: 5,
};

/** Points by part, in the order of DIFFICULTY_PARTS, and their sum, 0 to 100. */
export interface Difficulty {
  readonly score: number;
  readonly points: readonly number[];
}

/** What is looked at on both sides of a seam. Rates are in whole notes per minute. */
export interface SeamSides {
  readonly beatsBefore: readonly PulseBeat[];
  readonly beatsAfter: readonly PulseBeat[];
  readonly lengthBefore: Fraction;
  readonly lengthAfter: Fraction;
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly carry: Carry | null;
}

const EASY_BPM = 120;
const HARDEST_BPM = 200;

export function difficultyOf(sides: SeamSides, weights = DIFFICULTY_WEIGHTS): Difficulty {
  const points = DIFFICULTY_PARTS.map((part) => weights[part] * clamp(SHARES[part](sides)));
  return { points, score: Math.round(points.reduce((total, value) => total + value, 0)) };
}

/** How much of each part's weight a seam takes, 0 to 1. */
const SHARES: Readonly<Record<DifficultyPart, (sides: SeamSides) => number>> = {
  'tempo jump': (sides) =>
    octaves(lastBeat(sides) / wholeRate(sides.rateBefore), firstBeat(sides) / wholeRate(sides.rateAfter)),
  carry: ({ carry }) => (carry ? (complexity(carry.before) + complexity(carry.after)) / 8 : 1),
  subdivision: ({ rateBefore, rateAfter }) => octaves(wholeRate(rateBefore), wholeRate(rateAfter)),
  'odd bar': ({ lengthBefore, lengthAfter, beatsBefore }) => {
    const difference = Math.abs(toNumber(lengthBefore) - toNumber(lengthAfter));
    return difference > 1e-12 && difference < toNumber(beatsBefore[0]?.lengthWholes ?? lengthBefore) ? 1 : 0;
  },
  'new pulse note': (sides) => (Math.abs(lastBeat(sides) - firstBeat(sides)) > 1e-12 ? 1 : 0),
  grouping: ({ beatsAfter }) => {
    const uneven = beatsAfter.filter(
      (beat) => beatsAfter[0] && !equal(beat.lengthWholes, beatsAfter[0].lengthWholes),
    );
    return (2 * uneven.length) / Math.max(1, beatsAfter.length);
  },
  speed: (sides) => (wholeRate(sides.rateAfter) / firstBeat(sides) - EASY_BPM) / (HARDEST_BPM - EASY_BPM),
};

/** Plain 0, dotted 1, triplet 2, quintuplet 3, septuplet and the rest 4. */
function complexity({ dots, tuplets }: Carry['before']): number {
  const [tuplet] = tuplets;
  if (!tuplet) return Math.min(4, dots);
  return tuplet.actual === 3 ? 2 : tuplet.actual === 5 ? 3 : 4;
}

function octaves(a: number, b: number): number {
  return Math.abs(Math.log2(a / b));
}

function wholeRate(rate: Fraction): number {
  return toNumber(rate);
}

function lastBeat({ beatsBefore }: SeamSides): number {
  return toNumber(beatsBefore.at(-1)?.lengthWholes ?? { n: 1, d: 4 });
}

function firstBeat({ beatsAfter }: SeamSides): number {
  return toNumber(beatsAfter[0]?.lengthWholes ?? { n: 1, d: 4 });
}

function clamp(value: number): number {
  return Math.min(1, Math.max(0, value));
}
