import { toNumber, type Fraction } from '../fraction/fraction.ts';
import { lawRate, lawSeconds, lawWholes } from '../tempo/tempoMap.ts';
import type { PerformedPosition, TempoSegment, Timeline } from './timeline.ts';

export function performedCount(timeline: Timeline): number {
  return timeline.route.barIndex.length;
}

/** Length of the whole performance in seconds, without the count-off. */
export function pieceSeconds(timeline: Timeline): number {
  return barStart(timeline, performedCount(timeline));
}

/** Seconds at which a performed bar starts; one past the last gives the end. */
export function barStart(timeline: Timeline, performed: number): number {
  const seconds = timeline.barStartSeconds[performed];
  if (seconds === undefined) throw new RangeError(`there is no performed bar ${performed}`);
  return seconds;
}

/** Seconds of an exact position, computed from the start of its tempo segment. A position after a hold is after its wait. */
export function secondsAt(timeline: Timeline, { performed, atWholes }: PerformedPosition): number {
  return secondsAtRatio(timeline, performed, atWholes.n, atWholes.d);
}

/** The same for an offset n/d that need not be reduced. */
export function secondsAtRatio(timeline: Timeline, performed: number, n: number, d: number): number {
  const segment = timeline.segments[segmentIndexAt(timeline, performed, n, d)] as TempoSegment;
  if (segment.performed === performed) {
    const { n: fromN, d: fromD } = segment.atWholes;
    return segment.startSeconds + lawSeconds(segment.law, segment.into, n * fromD - fromN * d, d * fromD);
  }
  const fromN = timeline.fromSegmentN[performed] ?? 0;
  const fromD = timeline.fromSegmentD[performed] ?? 1;
  return segment.startSeconds + lawSeconds(segment.law, segment.into, fromN * d + n * fromD, fromD * d);
}

/** The rate in force from a position on, in whole notes per minute; inside a ramp, the rate just there. */
export function rateAt(timeline: Timeline, { performed, atWholes }: PerformedPosition): Fraction {
  const segment = timeline.segments[
    segmentIndexAt(timeline, performed, atWholes.n, atWholes.d)
  ] as TempoSegment;
  return lawRate(segment.law, segment.into + distanceFrom(timeline, segment, performed, toNumber(atWholes)));
}

/** Whole notes from a segment's start to an offset in a performed bar that it reaches. */
function distanceFrom(
  timeline: Timeline,
  segment: TempoSegment,
  performed: number,
  atWholes: number,
): number {
  if (segment.performed === performed) return atWholes - toNumber(segment.atWholes);
  return (timeline.fromSegmentN[performed] ?? 0) / (timeline.fromSegmentD[performed] ?? 1) + atWholes;
}

function segmentIndexAt(timeline: Timeline, performed: number, n: number, d: number): number {
  let index = timeline.segmentAtBar[performed];
  if (index === undefined) throw new RangeError(`there is no performed bar ${performed}`);
  for (;;) {
    const next = timeline.segments[index + 1];
    if (!next || next.performed !== performed || next.atWholes.n * d > n * next.atWholes.d) return index;
    index++;
  }
}

/** A moment as a place in the score; the offset is a float, in whole notes from the barline. */
export interface Moment {
  readonly performed: number;
  readonly atWholes: number;
}

/** Inverse of `secondsAt`. Times outside the piece are held at its ends; during a hold the place stays. */
export function momentAt(timeline: Timeline, seconds: number): Moment {
  const count = performedCount(timeline);
  const clamped = Math.min(Math.max(seconds, 0), pieceSeconds(timeline));
  const performed = Math.min(lastAtOrBefore(timeline.barStartSeconds, clamped), count - 1);
  let index = timeline.segmentAtBar[performed] ?? 0;
  for (;;) {
    const next = timeline.segments[index + 1];
    if (!next || next.performed !== performed || next.startSeconds > clamped) break;
    index++;
  }
  return {
    performed,
    atWholes: Math.min(reachedIn(timeline, index, performed, clamped), limitOf(timeline, index, performed)),
  };
}

/** Offset in a performed bar that a segment has reached at a time. */
function reachedIn(timeline: Timeline, index: number, performed: number, seconds: number): number {
  const segment = timeline.segments[index] as TempoSegment;
  const barFrom = segment.performed === performed ? 0 : distanceFrom(timeline, segment, performed, 0);
  if (segment.performed === performed) {
    return toNumber(segment.atWholes) + lawWholes(segment.law, segment.into, seconds - segment.startSeconds);
  }
  const sinceBar = seconds - barStart(timeline, performed);
  return lawWholes(segment.law, segment.into + barFrom, sinceBar);
}

/** Where the next segment of the same bar takes over: the music does not run past it while it stands still. */
function limitOf(timeline: Timeline, index: number, performed: number): number {
  const next = timeline.segments[index + 1];
  return next?.performed === performed ? toNumber(next.atWholes) : Infinity;
}

/** Index of the last entry not after `value` in ascending `sorted`; 0 where all are after it. */
export function lastAtOrBefore(sorted: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = sorted.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((sorted[middle] ?? Infinity) <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Index of the first entry not before `value` in ascending `sorted`; its length where all are before it. */
export function firstAtOrAfter(sorted: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((sorted[middle] ?? Infinity) < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
