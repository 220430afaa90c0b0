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

/** A stretch of the line's width. */
export interface Span {
  readonly fromPx: number;
  readonly toPx: number;
}

/** From a hold to its words, and from these to anything else. */
const AFTER_HOLD_PX = 12;
const BETWEEN_PX = 4;
/** Farther from it than this nobody takes them for its. */
const BESIDE_PX = 90;

interface PlacedWords extends Span {
  /** Where they are held: at their beginning or their end. */
  readonly anchor: 'start' | 'end';
}

/**
 * Where words of a width stand that belong to a hold: after it, at the end of a system ending with that; else as near to it
 * as they meet nothing that has its place already. Where there is no such place near it they stand where they would.
 */
export function placeHoldWords(
  hold: { readonly x: number; readonly widthPx: number },
  { endPx, taken }: { readonly endPx: number; readonly taken: readonly Span[] },
): PlacedWords {
  const { widthPx } = hold;
  const from = (fromPx: number): PlacedWords => ({ fromPx, toPx: fromPx + widthPx, anchor: 'start' });
  const to = (toPx: number): PlacedWords => ({ fromPx: toPx - widthPx, toPx, anchor: 'end' });
  const meets = (place: Span) =>
    taken.some(({ fromPx, toPx }) => fromPx < place.toPx + BETWEEN_PX && toPx > place.fromPx - BETWEEN_PX);
  const after = from(hold.x + AFTER_HOLD_PX);
  const usual = after.toPx > endPx ? to(endPx) : after;
  if (!meets(usual)) return usual;
  const gap = ({ fromPx, toPx }: Span) => Math.max(0, fromPx - hold.x, hold.x - toPx);
  const others = taken
    .flatMap(({ fromPx, toPx }) => [to(fromPx - BETWEEN_PX), from(toPx + BETWEEN_PX)])
    .filter((place) => place.fromPx >= -AFTER_HOLD_PX && place.toPx <= endPx && !meets(place))
    .filter((place) => gap(place) <= BESIDE_PX);
  return others.reduce((best, place) => (gap(place) < gap(best) ? place : best), others[0] ?? usual);
}
