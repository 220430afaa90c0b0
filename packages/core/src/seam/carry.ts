import { commonMeasure, compare, divide, equal, toNumber, type Fraction } from '../fraction/fraction.ts';
import type { PulseBeat } from '../pulse/pulse.ts';
import {
  NOTE_BASES,
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  type NoteValue,
  type Tuplet,
} from '../value/noteValue.ts';

/** The note value that lasts equally long on both sides of a seam: `before` and `after` name it in each notation. */
export interface Carry {
  readonly before: NoteValue;
  readonly after: NoteValue;
}

/** Where no pair is exact: the closest one. `errorRatio` is its after over its before, minus one. */
export interface NearestCarry extends Carry {
  readonly errorRatio: number;
}

interface CarryValue {
  readonly value: NoteValue;
  readonly length: Fraction;
  readonly complexity: number;
}

interface CarryPair {
  readonly before: CarryValue;
  readonly after: CarryValue;
  readonly ratio: Fraction;
}

const TUPLETS: readonly Tuplet[] = [
  { actual: 3, normal: 2 },
  { actual: 5, normal: 4 },
  { actual: 7, normal: 4 },
];

/** Plain, dotted, triplet, quintuplet and septuplet values from whole to 32nd, simplest first. */
const VALUES: readonly CarryValue[] = NOTE_BASES.slice(1, -1).flatMap((base) =>
  [noteValue(base), noteValue(base, 1), ...TUPLETS.map((tuplet) => noteValue(base, 0, [tuplet]))].map(
    (value, complexity) => ({ value, length: noteValueLength(value), complexity }),
  ),
);

/** A dotted half, in whole notes. */
const LONGEST_HELD_WHOLES = 0.75;

/** Dotted against triplet is not felt. */
const MOST_COMPLEXITY = 2;

interface CarryTables {
  /** Every value against every other, by ratio. */
  readonly pairs: readonly CarryPair[];
  /** Plain, dotted and triplet notes against each other: what an ensemble can feel. */
  readonly felt: readonly CarryPair[];
}

let known: CarryTables | undefined;

/** Worked out when a piece first asks: much is begun that asks for none. */
function carryTables(): CarryTables {
  if (known) return known;
  const pairs = VALUES.flatMap((before) =>
    VALUES.map((after) => ({ before, after, ratio: divide(before.length, after.length) })),
  ).sort((a, b) => compare(a.ratio, b.ratio));
  return (known = { pairs, felt: pairs.filter(isFelt) });
}

function isFelt({ before, after }: CarryPair): boolean {
  return (
    toNumber(before.length) <= LONGEST_HELD_WHOLES &&
    toNumber(after.length) <= LONGEST_HELD_WHOLES &&
    before.complexity <= MOST_COMPLEXITY &&
    after.complexity <= MOST_COMPLEXITY &&
    before.complexity + after.complexity <= MOST_COMPLEXITY
  );
}

/** At one rate: the greatest value dividing every beat on both sides (timing.md, Seams). Null where no note has that length. */
export function carryAtOneRateMaybe(before: readonly PulseBeat[], after: readonly PulseBeat[]): Carry | null {
  const lengths = [...before, ...after].map((beat) => beat.lengthWholes);
  let shared = lengths.reduce(commonMeasure);
  // Nobody holds on to a whole note: its parts are felt.
  while (toNumber(shared) > LONGEST_HELD_WHOLES) shared = divide(shared, { n: 2, d: 1 });
  const value = noteValueOfLengthMaybe(shared);
  return value && { before: value, after: value };
}

/**
 * Across a change of rate: v₁ before and v₂ after last equally long when v₁/v₂ = W₁/W₂. The simplest
 * exact pair, one that holds the pulse on a side preferred; null when the table has none.
 */
function carryAcrossRatesMaybe(ratio: Fraction, pulseBefore: Fraction, pulseAfter: Fraction): Carry | null {
  let best: CarryPair | null = null;
  let bestCost = Infinity;
  const { pairs } = carryTables();
  for (let index = firstPairFrom(pairs, ratio); ; index++) {
    const pair = pairs[index];
    if (!pair || !equal(pair.ratio, ratio)) break;
    const cost = costOf(pair, pulseBefore, pulseAfter);
    if (cost < bestCost) [best, bestCost] = [pair, cost];
  }
  return best && { before: best.before.value, after: best.after.value };
}

/**
 * Every different ratio the table has within `reach` of the wanted one (0.06 is six percent), each in its simplest
 * writing, the nearest first. An exact one misses by zero.
 */
export function carriesNear(
  ratio: Fraction,
  reach: number,
  pulses: { readonly before: Fraction; readonly after: Fraction },
): readonly NearestCarry[] {
  const target = toNumber(ratio);
  const inReach = carryTables().pairs.filter((pair) => Math.abs(toNumber(pair.ratio) / target - 1) <= reach);
  const ratios = inReach
    .filter((pair, index) => index === 0 || !equal(pair.ratio, (inReach[index - 1] as CarryPair).ratio))
    .map((pair) => pair.ratio);
  return ratios
    .flatMap((near) => {
      const carry = carryAcrossRatesMaybe(near, pulses.before, pulses.after);
      const errorRatio = equal(near, ratio) ? 0 : target / toNumber(near) - 1;
      return carry ? [{ ...carry, errorRatio }] : [];
    })
    .sort((a, b) => Math.abs(a.errorRatio) - Math.abs(b.errorRatio));
}

/** The two sides of a change of tempo, as players have them: rates in whole notes a minute. */
export interface FeltSides {
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly beatBefore: Fraction;
  readonly beatAfter: Fraction;
  /** The shortest note anybody plays there, in seconds. */
  readonly shortestSeconds: number;
}

/** An ensemble cannot tell this from exact. */
const UNHEARD = 0.01;
/** A nearly equal pair is worth naming within this. */
const NEAR = 0.06;
/** Longer than the beat by more than this, a note is not felt but counted. */
const OVER_THE_BEAT = 1.25;
/** What can be held on to across a change of tempo, exactly or so nearly that nobody hears it; null where there is nothing. */
export function feltCarryMaybe(sides: FeltSides): Carry | null {
  const unheard = feltPairs(sides, UNHEARD);
  const cost = ({ pair, errorRatio }: FeltPair) =>
    costOf(pair, sides.beatBefore, sides.beatAfter) + (Math.abs(errorRatio) > 1e-9 ? 0.75 : 0);
  const best = unheard.reduce<FeltPair | null>((a, b) => (a && cost(a) <= cost(b) ? a : b), null);
  return best && { before: best.pair.before.value, after: best.pair.after.value };
}

/** Where nothing carries over: the nearly equal pair that may help, and what it misses; null where even that is far off. */
export function nearestFeltMaybe(sides: FeltSides): NearestCarry | null {
  const cost = ({ pair, errorRatio }: FeltPair) =>
    Math.abs(errorRatio) * 50 + costOf(pair, sides.beatBefore, sides.beatAfter) * 0.3;
  const best = feltPairs(sides, NEAR).reduce<FeltPair | null>(
    (a, b) => (a && cost(a) <= cost(b) ? a : b),
    null,
  );
  return (
    best && { before: best.pair.before.value, after: best.pair.after.value, errorRatio: best.errorRatio }
  );
}

interface FeltPair {
  readonly pair: CarryPair;
  readonly errorRatio: number;
}

function feltPairs(
  { rateBefore, rateAfter, beatBefore, beatAfter, shortestSeconds }: FeltSides,
  reach: number,
) {
  const seconds = (length: Fraction, rate: Fraction) => (60 * toNumber(length)) / toNumber(rate);
  const longest =
    OVER_THE_BEAT * Math.max(seconds(beatBefore, rateBefore), seconds(beatAfter, rateAfter)) + 1e-9;
  const target = toNumber(rateBefore) / toNumber(rateAfter);
  return carryTables().felt.flatMap((pair): readonly FeltPair[] => {
    const errorRatio = target / toNumber(pair.ratio) - 1;
    const length = seconds(pair.before.length, rateBefore);
    const isFelt = Math.abs(errorRatio) <= reach && length <= longest && length >= shortestSeconds * 0.99;
    return isFelt ? [{ pair, errorRatio }] : [];
  });
}

function costOf({ before, after }: CarryPair, pulseBefore: Fraction, pulseAfter: Fraction): number {
  const holdsPulse = equal(before.length, pulseBefore) || equal(after.length, pulseAfter);
  const fromPulse = Math.abs(Math.log2(toNumber(before.length) / toNumber(pulseBefore)));
  return before.complexity + after.complexity - (holdsPulse ? 1.5 : 0) + fromPulse / 100;
}

function firstPairFrom(pairs: readonly CarryPair[], ratio: Fraction): number {
  let low = 0;
  let high = pairs.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    const pair = pairs[middle];
    if (pair && compare(pair.ratio, ratio) < 0) low = middle + 1;
    else high = middle;
  }
  return low;
}
