import type { Bar, Piece } from '../piece/piece.ts';
import { changesStayLocal } from '../document/barFields.ts';
import type { TempoMap } from '../tempo/tempoMap.ts';

/** Bars `from` up to `to` (exclusive) are not what they were; all others are the very same. */
export interface LocalChange {
  readonly from: number;
  readonly to: number;
}

/**
 * What lies between two pieces where it is a matter of a few bars' meters, pulses, notes, holds or answers: tempo map,
 * route and labels are then as before. Null where it is more than that.
 */
export function localChangeMaybe(before: Piece, after: Piece, tempoMap: TempoMap): LocalChange | null {
  const isSameShape =
    before.bars.length === after.bars.length && before.takesRepeatsAfterJump === after.takesRepeatsAfterJump;
  if (!isSameShape) return null;
  const from = before.bars.findIndex((bar, index) => bar !== after.bars[index]);
  if (from < 0) return { from: 0, to: 0 };
  const to = before.bars.findLastIndex((bar, index) => bar !== after.bars[index]) + 1;
  for (let index = from; index < to; index++) {
    const [was, is] = [before.bars[index] as Bar, after.bars[index] as Bar];
    if (was !== is && (!changesStayLocal(was, is) || isInRamp(tempoMap, index))) return null;
  }
  return { from, to };
}

/** The length of a bar inside a ramp shapes the whole ramp. */
function isInRamp({ changes, atBar }: TempoMap, barIndex: number): boolean {
  for (let index = atBar[barIndex] ?? 0; index < changes.length; index++) {
    const change = changes[index];
    if (!change || (change.barIndex > barIndex && index > (atBar[barIndex] ?? 0))) return false;
    if (change.law.kind === 'ramp') return true;
  }
  return false;
}
