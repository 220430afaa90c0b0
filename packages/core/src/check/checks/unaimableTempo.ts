import { equal, multiply, type Fraction } from '../../fraction/fraction.ts';
import { formatNumber } from '../../fraction/text.ts';
import { feltBeats } from '../../pulse/pulse.ts';
import type { Bar } from '../../piece/piece.ts';
import type { RateChange, TempoMap } from '../../tempo/tempoMap.ts';
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
  looksAt: 'bar',
  at: ({ tempoMap, nameOf }, bar, barIndex) => {
    if (bar.tempoMarks.length === 0) return null;
    const bpm = changesIn(tempoMap, barIndex)
      .map((change) => newBpmMaybe(bar, change))
      .find((candidate) => candidate && !isAimable(candidate));
    if (!bpm) return null;
    return {
      says: `From ${nameOf(barIndex)} the beat is ${formatNumber(bpm)} a minute, which nobody can aim at`,
    };
  },
};

function changesIn({ changes, atBar }: TempoMap, barIndex: number): readonly RateChange[] {
  const from = atBar[barIndex] ?? 0;
  let end = from;
  while ((changes[end]?.barIndex ?? Infinity) <= barIndex) end++;
  return changes.slice(from, end).filter((change) => change.barIndex === barIndex);
}

/** The number that a mark gives the beat; null where it gives none. */
function newBpmMaybe(bar: Bar, { atWholes, law }: RateChange): Fraction | null {
  const mark = bar.tempoMarks.find((candidate) => equal(candidate.atWholes, atWholes));
  if (!mark || law.kind !== 'steady') return null;
  if (!mark.equivalence) return mark.stated?.bpm ?? null;
  const beat = feltBeats(bar)[0]?.lengthWholes;
  return beat ? bpmOf(law.rate, beat) : null;
}

function isAimable(bpm: Fraction): boolean {
  return multiply({ n: bpm.n % bpm.d, d: bpm.d }, FINEST).d === 1;
}
