import { compare, fraction, maybeAdd, subtract, toNumber, type Fraction } from '../fraction/fraction.ts';
import { secondsOf } from '../tempo/tempoMark.ts';
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
  const segment = segmentAt(timeline, performed, atWholes);
  if (segment.performed === performed) {
    return segment.startSeconds + secondsOf(subtract(atWholes, segment.atWholes), segment.rate);
  }
  const barFrom = fraction(timeline.fromSegmentN[performed] ?? 0, timeline.fromSegmentD[performed] ?? 1);
  const from = maybeAdd(barFrom, atWholes);
  if (from) return segment.startSeconds + secondsOf(from, segment.rate);
  return barStart(timeline, performed) + secondsOf(atWholes, segment.rate);
}

/** The rate in force from a position on, in whole notes per minute. */
export function rateAt(timeline: Timeline, { performed, atWholes }: PerformedPosition): Fraction {
  return segmentAt(timeline, performed, atWholes).rate;
}

function segmentAt(timeline: Timeline, performed: number, atWholes: Fraction): TempoSegment {
  let index = timeline.segmentAtBar[performed];
  if (index === undefined) throw new RangeError(`there is no performed bar ${performed}`);
  for (;;) {
    const next = timeline.segments[index + 1];
    if (!next || next.performed !== performed || compare(next.atWholes, atWholes) > 0) break;
    index++;
  }
  return timeline.segments[index] as TempoSegment;
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
