import { ALONE, aligned, unlikely } from './align.ts';
import type { Fit } from './fits.ts';
import type { PlaceAtSeam, Shape } from './shapes.ts';
import { sharedOf, surprises, type PersonState } from './surprise.ts';

/** The onsets around a seam, and when each that was asked for is expected from where the player stood before it. */
export interface Heard {
  /** Seconds of the run, for each place of the stretch. */
  readonly times: readonly number[];
  readonly near: readonly number[];
  /** The player's, in seconds. */
  readonly spread: number;
  /** What the player brings along from onset to onset. */
  readonly carried: number;
  /** What is known of the player where the stretch begins. */
  readonly before: PersonState;
}

/** What is said otherwise than held must be so much likelier, before it is looked at closely: most seams are held. */
const HELD_FIRST = 2.5;
/** Sizes of a free shape that onsets are matched with at first, and that are weighed at last. */
const SIZES_TRIED = 2;
const SIZES_WEIGHED = 8;
/** However steady a player is, onsets are looked for as far around those sizes as around somebody who spreads so much, in seconds. */
const SPREAD_TRIED = 0.025;

type Range = NonNullable<Shape['free']>;

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

/** What is new in the onsets that stand for the places, and what of it a shape of size one would have brought. */
interface News {
  /** By place, the onset that stands for it, or −1. */
  readonly onsetOf: Int32Array;
  readonly misses: Float64Array;
  readonly expected: Float64Array;
}

/** How a shape fits, with its likeliest size; null where it says nothing of its own, or cannot be heard in the stretch. */
export function fitMaybe(shape: Shape, places: readonly PlaceAtSeam[], heard: Heard): Fit | null {
  const unit = unitOf(shape, places, heard.spread);
  if (unit.isNone && shape.name !== 'held') return null;
  // Who has not come in again by the end of the stretch is not heard in it: there is nothing to hold against it.
  if (Number.isNaN(unit.shifts.at(-1))) return null;
  const news = shape.free
    ? newsAtLikeliest(unit, shape.free, heard)
    : newsOf(unit, matchedAt(unit, 1, heard).onsetOf, heard);
  const size = shape.free ? likeliestSize(news, shape.free) : 1;
  return {
    shape,
    size,
    score: weighed(unit, size, news, heard),
    onsetOf: news.onsetOf,
    shifts: Array.from(unit.shifts, (shift) => size * shift),
  };
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

/** From the best of some sizes on, what the size brings that those onsets tell. */
function newsAtLikeliest(unit: Unit, range: Range, heard: Heard): News {
  const widely = { ...heard, spread: Math.max(SPREAD_TRIED, heard.spread) };
  let near: Int32Array = new Int32Array(0);
  let leastCost = Infinity;
  for (let tried = 0; tried < SIZES_TRIED; tried++) {
    const { onsetOf, cost } = matchedAt(unit, sizeAt(range, tried, SIZES_TRIED), widely);
    if (cost < leastCost) [near, leastCost] = [onsetOf, cost];
  }
  const first = newsOf(unit, near, heard);
  const { onsetOf } = matchedAt(unit, likeliestSize(first, range), heard);
  return onsetOf.every((onset, index) => onset === near[index]) ? first : newsOf(unit, onsetOf, heard);
}

/** One of some sizes that lie by equal ratios between two of one sign. */
function sizeAt({ least, most }: Range, order: number, count: number): number {
  return least * (most / least) ** ((order + 0.5) / count);
}

/** Which onset stands for which place, by one size of a shape. */
function matchedAt({ shifts, played }: Unit, size: number, { times, near, spread }: Heard) {
  const shifted = new Float64Array(played.length);
  for (let order = 0; order < played.length; order++) {
    const index = played[order] as number;
    shifted[order] = (times[index] as number) + size * (shifts[index] as number);
  }
  const { onsetOf, cost } = aligned(shifted, near, spread);
  if (played.length === times.length) return { onsetOf, cost };
  const all = new Int32Array(times.length).fill(-1);
  for (let order = 0; order < played.length; order++) all[played[order] as number] = onsetOf[order] as number;
  return { onsetOf: all, cost };
}

function newsOf({ inSpreads }: Unit, onsetOf: Int32Array, heard: Heard): News {
  const { news } = surprises([missesOf(onsetOf, heard), inSpreads], heard.carried, heard.before);
  return { onsetOf, misses: news[0] as Float64Array, expected: news[1] as Float64Array };
}

/** How far each place's onset is from its time, in spreads; NaN where there is none. */
export function missesOf(onsetOf: Int32Array, { times, near, spread }: Heard): Float64Array {
  const misses = new Float64Array(times.length);
  for (let index = 0; index < misses.length; index++) {
    const onset = onsetOf[index] as number;
    misses[index] = onset < 0 ? NaN : ((near[onset] as number) - (times[index] as number)) / spread;
  }
  return misses;
}

/** Generalised least squares: the size that leaves least that is new. */
function likeliestSize({ misses, expected }: News, { least, most }: Range): number {
  const { together, square } = sharedOf(misses, expected);
  return Math.min(most, Math.max(least, together / square));
}

/** What a size leaves new, as twice the negative logarithm of how likely that is. */
function costOf({ misses, expected }: News, size: number): number {
  let cost = 0;
  for (let index = 0; index < misses.length; index++) {
    const miss = (misses[index] as number) - size * (expected[index] as number);
    if (!Number.isNaN(miss)) cost += unlikely(miss * miss);
  }
  return cost;
}

/**
 * How likely the onsets are by a shape whatever its size (the evidence: its likelihood averaged over sizes, of which each is as
 * likely as its double), as twice the negative logarithm. What is free costs what it gives, and needs no price of its own.
 */
function weighed({ shape, shifts, played }: Unit, size: number, news: News, heard: Heard): number {
  let cost = costOf(news, size);
  if (shape.free) {
    let sum = 0;
    for (let order = 0; order < SIZES_WEIGHED; order++)
      sum += Math.exp((cost - costOf(news, sizeAt(shape.free, order, SIZES_WEIGHED))) / 2);
    cost -= 2 * Math.log(sum / SIZES_WEIGHED);
  }
  let [matched, first, last] = [0, -1, -1];
  for (const onset of news.onsetOf) {
    if (onset < 0) continue;
    matched++;
    if (first < 0) first = onset;
    last = onset;
  }
  // Who is thought to be on the way still, while the player was long there, has not played what came since.
  const end = (heard.times.at(-1) as number) + size * (shifts.at(-1) as number);
  while (matched > 0 && (heard.near[last + 1] ?? Infinity) < end) last++;
  const extra = matched > 0 ? last - first + 1 - matched : 0;
  const prior = shape.name === 'held' ? 0 : HELD_FIRST;
  return cost + ALONE * (played.length - matched + extra) + prior - 2 * Math.log(shape.share);
}
