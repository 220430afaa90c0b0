import { barsMoved, barTexts, writePiece, type BarsMoved, type Proof } from '@anchorbeat/core';

/** Where the bars of one state of a piece are in another; null where both are the same. */
export function movedBetweenMaybe({ piece: then }: Proof, { piece: now }: Proof): BarsMoved | null {
  if (then === now) return null;
  return barsMoved(barTexts(writePiece(then).bars), barTexts(writePiece(now).bars));
}
