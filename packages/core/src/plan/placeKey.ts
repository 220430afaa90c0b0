import type { BarsMoved } from '../difference/barsMoved.ts';

/** By what an item of a plan is known: its piece, and the written bars after its seams. */
export function placeKey(pieceId: string, bars: readonly number[]): string {
  return `${pieceId}:${bars.join('+')}`;
}

/** The same item once the bars of a piece have moved; null where none of its seams is there any more. */
export function movedKeyMaybe(key: string, pieceId: string, moved: BarsMoved): string | null {
  const text = key.startsWith(`${pieceId}:`) ? key.slice(pieceId.length + 1) : '';
  if (!/^\d+(\+\d+)*$/.test(text)) return key;
  const bars = text.split('+').flatMap((bar) => moved[Number(bar)] ?? []);
  return bars.length === 0 ? null : placeKey(pieceId, bars);
}
