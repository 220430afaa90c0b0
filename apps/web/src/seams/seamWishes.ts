import type { SeamKind } from '@anchorbeat/core';

export const ORDERS = ['worst first', 'least ready first', 'in order'] as const;
type SeamOrder = (typeof ORDERS)[number];

export const REHEARSED = ['rehearsed or not', 'not yet rehearsed', 'not yet ready'] as const;
type Rehearsed = (typeof REHEARSED)[number];

/** Which seams are wanted, and in which order. */
export interface SeamWishes {
  readonly order: SeamOrder;
  readonly kind: SeamKind | null;
  /** Only where this section plays on either side. */
  readonly section: string | null;
  readonly rehearsed: Rehearsed;
}
