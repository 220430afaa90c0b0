import { divide } from '../../fraction/fraction.ts';
import { nearestCarry } from '../../seam/carry.ts';
import { formatEquivalence } from '../../tempo/text.ts';
import type { Check } from '../check.ts';

/** A seam over which no note value lasts. Told once for each written bar. */
export const seamCarry: Check = {
  id: 'seam-carry',
  severity: 'hint',
  name: 'A seam that nothing carries over',
  explains: 'Players have nothing to hold on to: the new tempo must come from the hand.',
  looksAt: 'seam',
  at: ({ nameOf }, { carry, changes, rateBefore, rateAfter }, barIndex) => {
    if (carry || !changes.includes('tempo')) return null;
    const nearest = nearestCarry(divide(rateBefore, rateAfter));
    const percent = (100 * nearest.errorRatio).toFixed(1).replace('-', '−');
    return {
      says: `Nothing carries over into ${nameOf(barIndex)}; the nearest is ${formatEquivalence(nearest)}, off by ${percent} %`,
    };
  },
};
