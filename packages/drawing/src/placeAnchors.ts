import type { BarGeometry, CompiledPiece, Equivalence, Seam } from '@anchorbeat/core';
import type { LineRows } from './lineRows.ts';

/** From a barline to the number of its bar, and how wide a figure of that is. */
export const LABEL_INSET_PX = 7;
export const DIGIT_PX = 7.2;
/** From a weight to what carries over, where no number stands between them. */
const CARRY_INSET_PX = 15;
/** How wide what carries over is at most, in its own size. */
const CARRY_EMS = 4;
/** Half of a weight, in its own size. */
export const WEIGHT_HALF = 0.6;

/** The weight of a seam under the line, with what lasts equally long on both sides where that has room. */
export interface PlacedAnchor {
  readonly xPx: number;
  readonly carry: { readonly xPx: number; readonly equivalence: Equivalence } | null;
  /** What both of them take of the line's width. */
  readonly fromPx: number;
  readonly toPx: number;
}

/** Where the weights of a system's seams stand, in order. */
export function placeAnchors(
  { labels }: CompiledPiece,
  bars: readonly BarGeometry[],
  seamOf: (bar: BarGeometry) => Seam | undefined,
  rows: LineRows,
): readonly PlacedAnchor[] {
  const anchored = bars.flatMap((bar) => {
    const seam = seamOf(bar);
    return seam ? [{ bar, seam }] : [];
  });
  const sharesRow = rows.detail !== 'near';
  const carryPx = CARRY_EMS * rows.carrySize;
  const halfPx = rows.anchorSize * WEIGHT_HALF;
  return anchored.map(({ bar: { xPx, widthPx, barIndex }, seam }, index) => {
    const inset = sharesRow
      ? LABEL_INSET_PX + (labels[barIndex]?.length ?? 0) * DIGIT_PX + 6
      : CARRY_INSET_PX;
    const room = Math.min((anchored[index + 1]?.bar.xPx ?? Infinity) - xPx, sharesRow ? widthPx : Infinity);
    const carry = seam.carry && room > inset + carryPx ? { xPx: xPx + inset, equivalence: seam.carry } : null;
    return { xPx, carry, fromPx: xPx - halfPx, toPx: carry ? carry.xPx + carryPx : xPx + halfPx };
  });
}
