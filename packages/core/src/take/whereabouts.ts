import { aligned, medianOf } from './align.ts';
import type { PlayedOnset } from './takeAnalysis.ts';

/** A person's spread before anything is known of them, in seconds. */
export const PRIOR_SPREAD = 0.025;

const PART = 48;

/** A long take is aligned part by part: no onset is matched farther than its own part. */
export function alignedInParts(
  times: readonly number[],
  onsets: readonly number[],
  spread: number,
): readonly number[] {
  const onsetOf: number[] = [];
  let next = 0;
  for (let from = 0; from < times.length; from += PART) {
    const part = times.slice(from, from + PART);
    const after = times[from + PART];
    const until = after === undefined ? Infinity : ((part.at(-1) ?? 0) + after) / 2;
    let end = next;
    while (end < onsets.length && (onsets[end] as number) < until) end++;
    const offset = next;
    const { onsetOf: inPart } = aligned(part, onsets.slice(next, end), spread);
    for (const onset of inPart) onsetOf.push(onset < 0 ? -1 : onset + offset);
    next = end;
  }
  return onsetOf;
}

/** What some onsets have in common against what is asked: of several answers the one nearest to what is usual. */
export function nearestConstant(asked: readonly number[], onsets: readonly number[], usual: number): number {
  const [first, last] = [asked[0] ?? 0, asked.at(-1) ?? 0];
  const near = onsets.filter((time) => time > first - 0.4 && time < last + 0.5);
  const timesAt = (constant: number) => asked.map((time) => time + constant);
  let best = { cost: Infinity, constant: usual };
  for (let constant = usual - 0.2; constant <= usual + 0.2; constant += 0.004) {
    const cost = aligned(timesAt(constant), near, PRIOR_SPREAD).cost + Math.abs(constant - usual) * 12;
    if (cost < best.cost) best = { cost, constant };
  }
  const times = timesAt(best.constant);
  return best.constant + middleMiss(times, near, aligned(times, near, PRIOR_SPREAD).onsetOf);
}

/** Farther from the middle than this, in seconds, an onset says nothing of where a person stands. */
const SLIP = 0.08;

/** How late the onsets are that times were matched with, slips left out; 0 where there are too few to tell. */
export function middleMiss(times: readonly number[], onsets: readonly number[], onsetOf: Int32Array): number {
  const misses = times.flatMap((time, index) => {
    const onset = onsets[onsetOf[index] ?? -1];
    return onset === undefined ? [] : [onset - time];
  });
  if (misses.length <= 2) return 0;
  const middle = medianOf(misses);
  const near = misses.filter((miss) => Math.abs(miss - middle) < SLIP);
  return near.reduce((sum, miss) => sum + miss, 0) / near.length;
}

/** The slope of the line through how late each bar was (Theil–Sen over a sample of pairs). */
export function driftOf(played: readonly PlayedOnset[], barCount: number): number {
  const known = played.filter(({ offMs }) => offMs !== null);
  const [first, last] = [known[0], known.at(-1)];
  if (!first || !last || barCount < 3) return 0;
  const bars =
    (last.asked.beats - first.asked.beats) / Math.max(1, (played.at(-1)?.asked.beats ?? 1) / barCount);
  const third = Math.ceil(known.length / 3);
  const middle = (part: readonly PlayedOnset[]) => medianOf(part.map(({ offMs }) => offMs ?? 0));
  return bars > 0 ? ((middle(known.slice(-third)) - middle(known.slice(0, third))) * 1.5) / bars : 0;
}
