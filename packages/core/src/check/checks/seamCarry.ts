import { divide } from '../../fraction/fraction.ts';
import { nearestCarry } from '../../seam/carry.ts';
import { formatEquivalence } from '../../tempo/text.ts';
import type { Check, Found } from '../check.ts';

/** A seam over which no note value lasts. Told once for each written bar. */
export const seamCarry: Check = {
  id: 'seam-carry',
  severity: 'hint',
  name: 'A seam that nothing carries over',
  explains: 'Players have nothing to hold on to: the new tempo must come from the hand.',
  looksAt: 'piece',
  find: ({ seams, timeline, nameOf }) => {
    const told = new Set<number>();
    const found: Found[] = [];
    for (const seam of seams) {
      if (seam.carry || !seam.changes.includes('tempo')) continue;
      const barIndex = timeline.route.barIndex[seam.performed] ?? 0;
      if (told.has(barIndex)) continue;
      told.add(barIndex);
      const nearest = nearestCarry(divide(seam.rateBefore, seam.rateAfter));
      const percent = (100 * nearest.errorRatio).toFixed(1).replace('-', '−');
      found.push({
        barIndex,
        says: `Nothing carries over into ${nameOf(barIndex)}; the nearest is ${formatEquivalence(nearest)}, off by ${percent} %`,
      });
    }
    return found;
  },
};
