import type { BarGeometry } from '@anchorbeat/core';
import { beadPoint, type BeatShare } from '@anchorbeat/drawing';

/** Whether less motion is wanted. */
export const calm = matchMedia('(prefers-reduced-motion: reduce)');

/** Where the bead is in its system. Where less motion is wanted it does not glide: it stands on each beat in turn. */
export function beadPlace(bar: BarGeometry, beat: BeatShare, beatCount: number) {
  return beadPoint(bar, calm.matches ? { ...beat, share: 0 } : beat, beatCount);
}
