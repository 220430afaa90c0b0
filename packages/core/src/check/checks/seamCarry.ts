import { nearestFeltMaybe } from '../../seam/carry.ts';
import { feltSides } from '../../seam/seam.ts';
import { formatEquivalence } from '../../tempo/text.ts';
import { noteWords } from '../../value/text.ts';
import type { Check } from '../check.ts';

/** A seam over which no note value lasts. Told once for each written bar. */
export const seamCarry: Check = {
  id: 'seam-carry',
  severity: 'hint',
  name: 'A seam that nothing carries over',
  explains: 'Players have nothing to hold on to: the new tempo must come from the hand.',
  looksAt: 'seam',
  at: ({ nameOf, piece, timeline }, seam, barIndex) => {
    if (seam.carry || !seam.changes.includes('tempo')) return null;
    const before = piece.bars[timeline.route.barIndex[seam.performed - 1] ?? -1];
    const after = piece.bars[barIndex];
    const nearest = before && after ? nearestFeltMaybe(feltSides({ before, after, ...seam })) : null;
    const says = `Nothing carries over into ${nameOf(barIndex)}`;
    if (!nearest) return { says: `${says}: follow the hand from the beat before` };
    const percent = (100 * nearest.errorRatio).toFixed(1).replace('-', '−');
    return {
      says: `${says}: follow the hand; what may help is ${formatEquivalence(nearest, noteWords)}, off by ${percent} %`,
    };
  },
};
