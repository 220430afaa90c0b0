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

const PAIRS: readonly CarryPair[] = VALUES.flatMap((before) =>
  VALUES.map((after) => ({ before, after, ratio: divide(before.length, after.length) })),
).sort((a, b) => compare(a.ratio, b.ratio));

/** At one rate: the greatest value dividing every beat on both sides (timing.md, Seams). Null where no note has that length. */
export function carryAtOneRateMaybe(before: readonly PulseBeat[], after: readonly PulseBeat[]): Carry | null {
  const lengths = [...before, ...after].map((beat) => beat.lengthWholes);
  const shared = lengths.reduce(commonMeasure);
  const value = noteValueOfLengthMaybe(shared);
  return value && { before: value, after: value };
}

/**
 * Across a change of rate: v₁ before and v₂ after last equally long when v₁/v₂ = W₁/W₂. The simplest
 * exact pair, one that holds the pulse on a side preferred; null when the table has none.
 */
export function carryAcrossRatesMaybe(
  ratio: Fraction,
  pulseBefore: Fraction,
  pulseAfter: Fraction,
): Carry | null {
  let best: CarryPair | null = null;
  let bestCost = Infinity;
  for (let index = firstPairFrom(ratio); ; index++) {
    const pair = PAIRS[index];
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
  const inReach = PAIRS.filter((pair) => Math.abs(toNumber(pair.ratio) / target - 1) <= reach);
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

/** The pair whose ratio comes nearest, and by how much it misses. */
export function nearestCarry(ratio: Fraction): NearestCarry {
  const target = toNumber(ratio);
  const index = firstPairFrom(ratio);
  const near = PAIRS.slice(Math.max(0, index - 40), index + 40);
  const missOf = (pair: CarryPair) => Math.abs(toNumber(pair.ratio) / target - 1);
  const simplest = near.reduce((best, pair) => {
    const gain = missOf(best) - missOf(pair);
    const isSimpler =
      pair.before.complexity + pair.after.complexity < best.before.complexity + best.after.complexity;
    return gain > 1e-12 || (gain > -1e-12 && isSimpler) ? pair : best;
  });
  return {
    before: simplest.before.value,
    after: simplest.after.value,
    errorRatio: target / toNumber(simplest.ratio) - 1,
  };
}

function costOf({ before, after }: CarryPair, pulseBefore: Fraction, pulseAfter: Fraction): number {
  const holdsPulse = equal(before.length, pulseBefore) || equal(after.length, pulseAfter);
  const fromPulse = Math.abs(Math.log2(toNumber(before.length) / toNumber(pulseBefore)));
  return before.complexity + after.complexity - (holdsPulse ? 1.5 : 0) + fromPulse / 100;
}

function firstPairFrom(ratio: Fraction): number {
  let low = 0;
  let high = PAIRS.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    const pair = PAIRS[middle];
    if (pair && compare(pair.ratio, ratio) < 0) low = middle + 1;
    else high = middle;
  }
  return low;
}
