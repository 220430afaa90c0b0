import type { BarGeometry, Hop } from '@anchorbeat/core';
import { pointOnHop } from './hopPaths.ts';

/** What the bead is doing: a beat of a written bar, and how far through it, from 0 to 1. */
export interface BeatShare {
  readonly barIndex: number;
  readonly beatIndex: number;
  readonly share: number;
}

/** Where the bead is in its system. A bar drawn as one hop is crossed in one hop. */
export function beadPoint(bar: BarGeometry, { beatIndex, share }: BeatShare, beatCount: number) {
  const hop = bar.hops[beatIndex];
  if (hop && bar.hops.length === beatCount) return pointOnHop(hop, share);
  return pointOnHop(bar.hops[0] as Hop, (beatIndex + share) / beatCount);
}
