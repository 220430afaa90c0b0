import {
  add,
  barLength,
  divide,
  fraction,
  multiply,
  pulseOf,
  type Bar,
  type Fraction,
  type Piece,
} from '@anchorbeat/core';

/** How a piece's places become ticks. Where `isExact` is false some are the nearest tick only. */
export interface TickGrid {
  readonly ticksPerQuarter: number;
  readonly isExact: boolean;
}

const MOST_TICKS_PER_QUARTER = 32_767;
const FEWEST_TICKS_PER_QUARTER = 960;
/** Divides by everything up to 12, and by 15, 16 and 18. */
const FALLBACK_TICKS_PER_QUARTER = 27_720;

/** Ticks in which every barline, beat, small note and tempo mark of a piece is a whole number, if there are any (timing.md). */
export function tickGridOf(piece: Piece, more: readonly Fraction[]): TickGrid {
  const places = [...new Set(piece.bars)].flatMap((bar) => [
    barLength(bar),
    ...clickPlaces(bar).map(({ at }) => at),
    ...bar.tempoMarks.map(({ atWholes }) => atWholes),
    ...(bar.holds ?? []).map(({ atWholes }) => atWholes),
  ]);
  let ticks = 1;
  for (const { n, d } of [...places, ...more]) {
    const needed = fraction(4 * n, d).d;
    ticks = (ticks / greatestCommon(ticks, needed)) * needed;
    if (ticks > MOST_TICKS_PER_QUARTER)
      return { ticksPerQuarter: FALLBACK_TICKS_PER_QUARTER, isExact: false };
  }
  const times = Math.max(1, Math.ceil(FEWEST_TICKS_PER_QUARTER / ticks));
  return { ticksPerQuarter: times * ticks, isExact: true };
}

/** Beats and small notes of a bar: where they are, and what of a beat they are. */
export function clickPlaces(
  bar: Bar,
): ReadonlyArray<{ readonly at: Fraction; readonly beat: number; readonly part: number }> {
  return pulseOf(bar).flatMap((beat, index) =>
    Array.from({ length: beat.parts }, (_, part) => ({
      at: add(beat.atWholes, multiply(beat.lengthWholes, divide(fraction(part), fraction(beat.parts)))),
      beat: index,
      part,
    })),
  );
}

function greatestCommon(a: number, b: number): number {
  return b === 0 ? a : greatestCommon(b, a % b);
}
