import { pulseChoiceProblemMaybe } from '../../pulse/choice.ts';
import type { BarCheck } from '../check.ts';

/** A chosen pulse that no longer sums to its bar. */
export const pulseFits: BarCheck = {
  id: 'pulse-fits',
  severity: 'error',
  name: 'A grouping that does not sum',
  explains: 'The bar is beaten in its usual way until this is put right.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    const problem = bar.pulse && pulseChoiceProblemMaybe(bar, bar.pulse);
    if (!problem) return null;
    return {
      says: `In ${context.nameOf(barIndex)}: ${problem}`,
      correction: {
        label: 'Beat it as usual',
        edit: { kind: 'setPulse', from: barIndex, count: 1, pulse: undefined },
      },
    };
  },
};
