import { toNumber, type Fraction } from '../fraction/fraction.ts';
import { secondsOfRatio } from '../tempo/tempoMark.ts';
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

/** Seconds of an exact position, computed from the start of its tempo segment. */
export function secondsAt(timeline: Timeline, { performed, atWholes }: PerformedPosition): number {
  return secondsAtRatio(timeline, performed, atWholes.n, atWholes.d);
}

/** The same for an offset n/d that need not be reduced. */
export function secondsAtRatio(timeline: Timeline, performed: number, n: number, d: number): number {
  const segment = timeline.segments[segmentIndexAt(timeline, performed, n, d)] as TempoSegment;
  if (segment.performed === performed) {
    const { n: fromN, d: fromD } = segment.atWholes;
    return segment.startSeconds + secondsOfRatio(n * fromD - fromN * d, d * fromD, segment.rate);
  }
  const fromN = timeline.fromSegmentN[performed] ?? 0;
  const fromD = timeline.fromSegmentD[performed] ?? 1;
  return segment.startSeconds + secondsOfRatio(fromN * d + n * fromD, fromD * d, segment.rate);
}

/** The rate in force from a position on, in whole notes per minute. */
export function rateAt(timeline: Timeline, { performed, atWholes }: PerformedPosition): Fraction {
  return (timeline.segments[segmentIndexAt(timeline, performed, atWholes.n, atWholes.d)] as TempoSegment)
    .rate;
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

/** Inverse of `secondsAt`. Times outside the piece are held at its ends. */
export function momentAt(timeline: Timeline, seconds: number): Moment {
  const count = performedCount(timeline);
  const clamped = Math.min(Math.max(seconds, 0), pieceSeconds(timeline));
  const performed = Math.min(lastAtOrBefore(timeline.barStartSeconds, clamped), count - 1);
  let at = 0;
  let from = barStart(timeline, performed);
  let rate = toNumber((timeline.segments[timeline.segmentAtBar[performed] ?? 0] as TempoSegment).rate);
  for (let index = (timeline.segmentAtBar[performed] ?? 0) + 1; ; index++) {
    const next = timeline.segments[index];
    if (!next || next.performed !== performed || next.startSeconds > clamped) break;
    at = toNumber(next.atWholes);
    from = next.startSeconds;
    rate = toNumber(next.rate);
  }
  return { performed, atWholes: at + ((clamped - from) * rate) / 60 };
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
