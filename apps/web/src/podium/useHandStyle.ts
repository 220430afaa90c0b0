import { PLAIN_HAND, type HandStyle } from '@anchorbeat/core';
import { Kept, useKept } from '../kept/kept.ts';

interface ShownHand {
  readonly style: HandStyle;
  readonly isShown: boolean;
}

const keptHand = new Kept<ShownHand>('anchorbeat.hand', (stored) => ({
  style: PLAIN_HAND,
  isShown: true,
  ...(stored as Partial<ShownHand> | undefined),
}));

/** How the hand is shown, kept in this browser. */
export function useHandStyle(): readonly [ShownHand, (hand: ShownHand) => void] {
  return useKept(keptHand);
}
