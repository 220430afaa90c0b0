import { surprises, USUAL_CARRIED } from './surprise.ts';
import { PRIOR_SPREAD } from './whereabouts.ts';

const LEAST_SPREAD = 0.006;
const MOST_SPREAD = 0.06;
/** What people usually spread weighs as much as so many onsets of a person's own. */
const USUAL_ONSETS = 4;
/** What is new in an onset counts no farther than so many standard deviations. */
const FARTHEST_NEWS = 2;
/** Of a bell's variance, what is left when it is bounded so (Huber 1964, proposal 2). */
const BOUNDED_VARIANCE = 0.9205;
const CARRIED_TRIED = [0.3, 0.4, 0.5, 0.6, 0.7, 0.8];
/** Standard deviation of what people bring along, from one to another (Vorberg and Schulze 2002 and the studies they name). */
const CARRIED_DEVIATION = 0.1;

/** How one person's onsets fall where nothing goes wrong. */
export interface Person {
  /** Standard deviation, in seconds. */
  readonly spread: number;
  /** Of how far the timekeeper is off, what is brought along to the next onset, from 0 to 1. */
  readonly carried: number;
}

/** A person of whom nothing is known. */
export const SOMEBODY: Person = { spread: PRIOR_SPREAD, carried: USUAL_CARRIED };

/**
 * A person's spread and what they bring along, told by what is new in each onset, so that neighbours which go together count
 * once. From a seam on they may stand elsewhere.
 *
 * @param misses By place, in seconds; NaN for what was left out.
 * @param seams Places that come right after an anchor, in order.
 */
export function personOf(misses: readonly number[], seams: readonly number[]): Person {
  const starts = [0, ...seams.filter((at) => at > 0 && at < misses.length)];
  const parts = starts.map((start, index) =>
    Float64Array.from(misses.slice(start, starts[index + 1]), (miss) => miss / PRIOR_SPREAD),
  );
  let [best, likeliest] = [SOMEBODY, Infinity];
  for (const carried of CARRIED_TRIED) {
    const { fresh, spreadLog } = newsOf(parts, carried);
    const square = boundedVariance(fresh);
    const bound = FARTHEST_NEWS ** 2 * square;
    const far = fresh.reduce((total, miss) => total + Math.min(miss * miss, bound), 0) / square;
    const unusual = ((carried - USUAL_CARRIED) / CARRIED_DEVIATION) ** 2;
    const cost = far + fresh.length * Math.log(square) + 2 * spreadLog + unusual;
    if (cost < likeliest) [best, likeliest] = [{ spread: PRIOR_SPREAD * Math.sqrt(square), carried }, cost];
  }
  return { ...best, spread: Math.min(MOST_SPREAD, Math.max(LEAST_SPREAD, best.spread)) };
}

/** All that is new in the parts, and the sum of the logarithms of how uncertain each was. */
function newsOf(parts: readonly Float64Array[], carried: number) {
  const fresh: number[] = [];
  let spreadLog = 0;
  for (const part of parts) {
    const { news, deviations } = surprises([part], carried);
    news[0]?.forEach((value, index) => {
      if (Number.isNaN(value)) return;
      fresh.push(value);
      spreadLog += Math.log(deviations[index] as number);
    });
  }
  return { fresh, spreadLog };
}

/** Variance of what is new, slips counted no farther than far, and the usual where there are few. */
function boundedVariance(fresh: readonly number[]): number {
  let square = 1;
  for (let round = 0; round < 8; round++) {
    const bound = FARTHEST_NEWS ** 2 * square;
    const sum = fresh.reduce((total, miss) => total + Math.min(miss * miss, bound), 0);
    square = (sum / BOUNDED_VARIANCE + USUAL_ONSETS) / (fresh.length + USUAL_ONSETS);
  }
  return square;
}
