import { toNumber } from '../../fraction/fraction.ts';
import { formatNumber } from '../../fraction/text.ts';
import { lawRate } from '../../tempo/tempoMap.ts';
import { bpmOf, statedRate } from '../../tempo/tempoMark.ts';
import { noteValueLength } from '../../value/noteValue.ts';
import type { Check, CheckContext, Found } from '../check.ts';

/** timing.md, Tempo: they agree within half a percent. */
const AGREES_WITHIN = 0.005;

/** A mark that states a BPM beside an equivalence, and they disagree. */
export const tempoAgainstEquivalence: Check = {
  id: 'tempo-against-equivalence',
  severity: 'question',
  name: 'A tempo that contradicts its equivalence',
  explains: 'One of the two is misprinted. The equivalence is what sounds.',
  looksAt: 'marks',
  find: (context) => context.tempoMap.changes.flatMap((change) => findingAt(context, change) ?? []),
};

function findingAt(
  { piece, nameOf }: CheckContext,
  change: CheckContext['tempoMap']['changes'][number],
): Found | null {
  const { barIndex, atWholes } = change;
  const mark = piece.bars[barIndex]?.tempoMarks.find(
    (m) => m.atWholes.n === atWholes.n && m.atWholes.d === atWholes.d,
  );
  if (!mark?.stated || !mark.equivalence) return null;
  const sounds = lawRate(change.law, 0);
  const ratio = toNumber(statedRate(mark.stated)) / toNumber(sounds);
  if (Math.abs(ratio - 1) <= AGREES_WITHIN) return null;
  const bpm = bpmOf(sounds, noteValueLength(mark.stated.unit));
  return {
    barIndex,
    says: `At ${nameOf(barIndex)} the equivalence gives ${formatNumber(bpm)} a minute, but ${formatNumber(mark.stated.bpm)} is printed`,
    correction: {
      label: `State ${formatNumber(bpm)}`,
      edit: { kind: 'setTempoMark', bar: barIndex, mark: { ...mark, stated: { ...mark.stated, bpm } } },
    },
  };
}
