import {
  barLength,
  formatHoldLength,
  toNumber,
  type BarGeometry,
  type Hold,
  type Piece,
} from '@anchorbeat/core';

/** Before its bar's end, where there is room for the comma. */
const BREATH_BEFORE_END_PX = 10;

interface PlacedHold {
  readonly kind: Hold['kind'];
  readonly x: number;
  /** Its length in words. */
  readonly words: string;
}

/** Where holds and breaths stand: a hold at the landing of its beat, a breath before the end of its bar. */
export function placeHolds(piece: Piece, bars: readonly BarGeometry[]): readonly PlacedHold[] {
  return bars.flatMap((drawn) => {
    const bar = piece.bars[drawn.barIndex];
    return (bar?.holds ?? []).map((hold) => {
      const words = formatHoldLength(hold.length);
      if (hold.kind === 'breath')
        return { kind: hold.kind, x: drawn.xPx + drawn.widthPx - BREATH_BEFORE_END_PX, words };
      const share = bar ? toNumber(hold.atWholes) / toNumber(barLength(bar)) : 0;
      const at = drawn.xPx + share * drawn.widthPx + 1e-6;
      return { kind: hold.kind, x: drawn.hops.findLast(({ xPx }) => xPx <= at)?.xPx ?? drawn.xPx, words };
    });
  });
}
