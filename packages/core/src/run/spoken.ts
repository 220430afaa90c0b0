import { fraction, ZERO } from '../fraction/fraction.ts';
import type { RunPlan } from './runPlan.ts';

/** A plan that only says something, such as what is to be done before the count-off. */
export function spokenPlan(word: string, lengthSeconds: number): RunPlan {
  return {
    clicks: [{ timeSeconds: 0.1, kind: 'countoff', word, roomSeconds: lengthSeconds }],
    stretches: [],
    countOff: { beats: [], lengthSeconds: 0, lengthWholes: ZERO, rate: fraction(24) },
    entrySeconds: 0,
    lengthSeconds,
    decided: [],
  };
}
