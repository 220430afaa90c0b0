import { PLAIN_HAND, type HandStyle } from '@anchorbeat/core';
import { useState } from 'react';

const KEY = 'anchorbeat.hand';

interface ShownHand {
  readonly style: HandStyle;
  readonly isShown: boolean;
}

/** How the hand is shown, kept in this browser. */
export function useHandStyle(): readonly [ShownHand, (hand: ShownHand) => void] {
  const [hand, setHand] = useState<ShownHand>(stored);
  const keep = (next: ShownHand) => {
    localStorage.setItem(KEY, JSON.stringify(next));
    setHand(next);
  };
  return [hand, keep];
}

function stored(): ShownHand {
  const plain = { style: PLAIN_HAND, isShown: true };
  try {
    return { ...plain, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<ShownHand>) };
  } catch {
    return plain;
  }
}
