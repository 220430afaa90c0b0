import { isRestBar } from '../../section/sections.ts';
import type { Check, Found } from '../check.ts';

const LONG_REST_BARS = 8;

/** A long rest without a mark to hold on to. */
export const longRest: Check = {
  id: 'long-rest',
  severity: 'hint',
  name: 'A long rest without a cue',
  explains: 'After eight bars of counting somebody is wrong: a rehearsal mark or a cue brings everyone back.',
  looksAt: 'piece',
  find: ({ piece, nameOf }) => {
    const found: Found[] = [];
    let from = -1;
    piece.bars.forEach((bar, barIndex) => {
      const { rehearsalMark } = bar;
      const isRest = isRestBar(bar);
      if (!isRest || rehearsalMark !== undefined) from = isRest ? barIndex : -1;
      else if (from < 0) from = barIndex;
      if (from >= 0 && barIndex - from + 1 === LONG_REST_BARS) {
        found.push({
          barIndex: from,
          says: `From ${nameOf(from)} on there are ${LONG_REST_BARS} bars of rest and more without a rehearsal mark`,
        });
      }
    });
    return found;
  },
};
