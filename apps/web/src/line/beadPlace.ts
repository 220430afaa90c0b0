import type { BarGeometry, Hop } from '@anchorbeat/core';
import { pointOnHop } from './hopPaths.ts';

/** What the bead is doing: a beat of a written bar, and how far through it. */
export interface BeatShare {
  readonly barIndex: number;
  readonly beatIndex: number;
  readonly share: number;
}

/** Where less motion is wanted the bead does not glide: it stands on each beat in turn. */
const calm = typeof matchMedia === 'undefined' ? null : matchMedia('(prefers-reduced-motion: reduce)');

/** Where the bead is in its system. A bar drawn as one hop is crossed in one hop. */
export function beadPoint(bar: BarGeometry, { beatIndex, share }: BeatShare, beatCount: number) {
  const through = calm?.matches ? 0 : share;
  const hop = bar.hops[beatIndex];
  if (hop && bar.hops.length === beatCount) return pointOnHop(hop, through);
  return pointOnHop(bar.hops[0] as Hop, (beatIndex + through) / beatCount);
}
