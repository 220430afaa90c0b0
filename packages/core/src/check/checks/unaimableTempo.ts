import { multiply } from '../../fraction/fraction.ts';
import { formatNumber } from '../../fraction/text.ts';
import { pulseOf } from '../../pulse/pulse.ts';
import { bpmOf } from '../../tempo/tempoMark.ts';
import type { Check } from '../check.ts';

/** timing.md, Grids: what is not a multiple of 1/100 BPM is a value no player can aim at. */
const FINEST = { n: 100, d: 1 };

/** A new tempo whose number nobody can set or aim at: only the equivalence can be felt. */
export const unaimableTempo: Check = {
  id: 'unaimable-tempo',
  severity: 'hint',
  name: 'A tempo nobody can aim at',
  explains: 'Rehearse the equivalence itself: no device and no hand will find this number.',
  looksAt: 'piece',
  find: ({ piece, tempoMap, nameOf }) =>
    tempoMap.changes.flatMap(({ barIndex, atWholes, law }) => {
      const bar = piece.bars[barIndex];
      const mark = bar?.tempoMarks.find((m) => m.atWholes.n === atWholes.n && m.atWholes.d === atWholes.d);
      if (!bar || !mark || law.kind !== 'steady' || (!mark.equivalence && !mark.stated)) return [];
      const beat = mark.stated && !mark.equivalence ? null : pulseOf(bar)[0]?.lengthWholes;
      const bpm = beat ? bpmOf(law.rate, beat) : mark.stated?.bpm;
      if (!bpm || multiply({ n: bpm.n % bpm.d, d: bpm.d }, FINEST).d === 1) return [];
      return [
        {
          barIndex,
          says: `From ${nameOf(barIndex)} the beat is ${formatNumber(bpm)} a minute, which nobody can aim at`,
        },
      ];
    }),
};
