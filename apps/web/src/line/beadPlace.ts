import { pulseOf, type BarGeometry, type BarMoment, type Piece } from '@anchorbeat/core';
import { beadPoint, type BeatShare } from '@anchorbeat/drawing';

/** Whether less motion is wanted. */
export const calm = matchMedia('(prefers-reduced-motion: reduce)');

/** Where the bead is in its system. Where less motion is wanted it does not glide: it stands on each beat in turn. */
export function beadPlace(bar: BarGeometry, beat: BeatShare, beatCount: number) {
  return beadPoint(bar, calm.matches ? { ...beat, share: 0 } : beat, beatCount);
}

/** Where the bead is on a page of performed bars; null where the moment's bar is not on it. */
export function barPoint(piece: Piece, bars: readonly BarGeometry[], moment: BarMoment) {
  const bar = bars[moment.performed - (bars[0]?.performed ?? 0)];
  const written = bar && piece.bars[bar.barIndex];
  return bar && written ? beadPlace(bar, moment, pulseOf(written).length) : null;
}
