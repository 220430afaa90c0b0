import { compare, equal } from '../fraction/fraction.ts';
import { formatEquivalence, formatStatedTempo } from '../tempo/text.ts';
import type { TempoMark } from '../tempo/tempoMark.ts';
import { noteWords } from '../value/text.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { barLength } from '../piece/piece.ts';
import { refused } from '../problem/problem.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Sets the mark at its position in a bar; one that stood at the same place is replaced. */
export const setTempoMark: EditKind<'setTempoMark'> = (piece, { bar: index, mark }) => {
  const bar = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  if (mark.atWholes.n < 0 || compare(mark.atWholes, barLength(bar)) >= 0) {
    return refused(`That position is outside ${name}`, { bar: name });
  }
  const others = bar.tempoMarks.filter((other) => !equal(other.atWholes, mark.atWholes));
  const tempoMarks = [...others, mark].sort((a, b) => compare(a.atWholes, b.atWholes));
  return withBar(piece, index, { ...bar, tempoMarks }, `${describeMark(mark)} at ${name}`);
};

function describeMark({ term, stated, equivalence }: TempoMark): string {
  const parts = [
    term,
    equivalence && formatEquivalence(equivalence, noteWords),
    stated && formatStatedTempo(stated, noteWords),
  ];
  return parts.filter(Boolean).join(', ') || 'empty tempo mark';
}
