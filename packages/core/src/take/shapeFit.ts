import { ALONE, aligned, unlikely } from './align.ts';
import type { Fit } from './fits.ts';
import type { Explanation } from './names.ts';
import type { PlaceAtSeam, Shape } from './shapes.ts';
import { surprises } from './surprise.ts';

/** The onsets around a seam, and when each that was asked for is expected from where the player stood before it. */
export interface Heard {
  /** Seconds of the run, for each place of the stretch. */
  readonly times: readonly number[];
  readonly near: readonly number[];
  /** The player's, in seconds. */
  readonly spread: number;
  /** What the player brings along from onset to onset. */
  readonly carried: number;
}

/** What is said otherwise than held must be so much likelier, before it is looked at closely. */
const HELD_FIRST = 3.8;
/** By so much some are likelier than their free numbers say, as found on simulated takes: those differ little from one another. */
const LIKELIER: Readonly<Partial<Record<Explanation, number>>> = {
  'lost-beat': -2,
  'gained-beat': -2,
  rushed: 1,
  dragged: 0.4,
  'settled-in': 3.6,
  followed: 1.5,
};
const SIZES_TRIED = 3;

/** A shape as it is held against the onsets: by place, how much later it has each, in seconds; NaN where it has none. */
interface Unit {
  readonly shape: Shape;
  readonly shifts: Float64Array;
  /** The same in spreads. */
  readonly inSpreads: Float64Array;
  /** Places that it has. */
  readonly played: readonly number[];
  /** It moves nothing. */
  readonly isNone: boolean;
}

/** One size of a shape: by place, the onset that stands for it, or −1. */
interface Sized {
  readonly size: number;
  readonly score: number;
  readonly onsetOf: Int32Array;
}

/** How a shape fits, with its likeliest size; null where it says nothing of its own, or cannot be heard in the stretch. */
export function fitMaybe(shape: Shape, places: readonly PlaceAtSeam[], heard: Heard): Fit | null {
  const unit = unitOf(shape, places, heard.spread);
  if (unit.isNone && shape.name !== 'held') return null;
  // Who has not come in again by the end of the stretch is not heard in it: there is nothing to hold against it.
  if (Number.isNaN(unit.shifts.at(-1))) return null;
  const { size, score, onsetOf } = shape.free
    ? likeliestSize(unit, shape.free, heard)
    : atSize(unit, 1, matchedAt(unit, 1, heard).onsetOf, heard);
  return { shape, size, score, onsetOf, shifts: Array.from(unit.shifts, (shift) => size * shift) };
}

function unitOf(shape: Shape, places: readonly PlaceAtSeam[], spread: number): Unit {
  const shifts = new Float64Array(places.length);
  const inSpreads = new Float64Array(places.length);
  const played: number[] = [];
  let isNone = true;
  for (const [index, place] of places.entries()) {
    const shift = shape.shift(place);
    shifts[index] = shift;
    inSpreads[index] = shift / spread;
    if (!Number.isNaN(shift)) played.push(index);
    if (!(Math.abs(shift) < 1e-9)) isNone = false;
  }
  return { shape, shifts, inSpreads, played, isNone };
}

/** From the best of some sizes on, the size that what it was matched with tells, and that once more. */
function likeliestSize(unit: Unit, { least, most }: NonNullable<Shape['free']>, heard: Heard): Sized {
  let [near, leastCost] = [new Int32Array(0), Infinity];
  for (let tried = 0; tried < SIZES_TRIED; tried++) {
    const { onsetOf, cost } = matchedAt(unit, least + ((most - least) * (tried + 0.5)) / SIZES_TRIED, heard);
    if (cost < leastCost) [near, leastCost] = [onsetOf, cost];
  }
  const clamped = (size: number) => Math.min(most, Math.max(least, size));
  const first = clamped(sizeOf(unit, near, heard));
  const { onsetOf } = matchedAt(unit, first, heard);
  return atSize(unit, clamped(sizeOf(unit, onsetOf, heard)), onsetOf, heard);
}

/** Which onset stands for which place, by one size of a shape. */
function matchedAt({ shifts, played }: Unit, size: number, { times, near, spread }: Heard) {
  const shifted: number[] = [];
  for (const index of played) shifted.push((times[index] as number) + size * (shifts[index] as number));
  const { onsetOf, cost } = aligned(shifted, near, spread);
  const all = new Int32Array(times.length).fill(-1);
  for (let order = 0; order < played.length; order++) all[played[order] as number] = onsetOf[order] as number;
  return { onsetOf: all, cost };
}

/** How far each place's onset is from its time, in spreads; NaN where there is none. */
function missesOf(onsetOf: Int32Array, { times, near, spread }: Heard): Float64Array {
  const misses = new Float64Array(times.length);
  for (let index = 0; index < misses.length; index++)
    misses[index] = ((near[onsetOf[index] as number] ?? NaN) - (times[index] as number)) / spread;
  return misses;
}

/** Generalised least squares: the size that leaves least that is new. */
function sizeOf({ inSpreads }: Unit, onsetOf: Int32Array, heard: Heard): number {
  const [misses, shifts] = surprises([missesOf(onsetOf, heard), inSpreads], heard.carried) as [
    Float64Array,
    Float64Array,
  ];
  let [above, below] = [0, 1e-9];
  for (let index = 0; index < misses.length; index++) {
    const [miss, shift] = [misses[index] as number, shifts[index] as number];
    if (Number.isNaN(miss)) continue;
    above += miss * shift;
    below += shift * shift;
  }
  return above / below;
}

function atSize(
  { shape, inSpreads, shifts, played }: Unit,
  size: number,
  onsetOf: Int32Array,
  heard: Heard,
): Sized {
  const misses = missesOf(onsetOf, heard);
  for (let index = 0; index < misses.length; index++)
    misses[index] = (misses[index] as number) - size * (inSpreads[index] as number);
  const [fresh] = surprises([misses], heard.carried) as [Float64Array];
  let [cost, matched, first, last] = [0, 0, -1, -1];
  for (let index = 0; index < fresh.length; index++) {
    const miss = fresh[index] as number;
    if (Number.isNaN(miss)) continue;
    cost += unlikely(miss * miss);
    matched++;
    if (first < 0) first = onsetOf[index] as number;
    last = onsetOf[index] as number;
  }
  // Who is thought to be on the way still, while the player was long there, has not played what came since.
  const end = (heard.times.at(-1) as number) + size * (shifts.at(-1) as number);
  while (matched > 0 && (heard.near[last + 1] ?? Infinity) < end) last++;
  const extra = matched > 0 ? last - first + 1 - matched : 0;
  const prior = shape.name === 'held' ? 0 : HELD_FIRST - (LIKELIER[shape.name] ?? 0);
  const priced = shape.parameters * Math.log(shifts.length) + prior;
  return { size, score: cost + ALONE * (played.length - matched + extra) + priced, onsetOf };
}
