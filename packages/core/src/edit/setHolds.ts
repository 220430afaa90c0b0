import { compare } from '../fraction/fraction.ts';
import { formatHoldLength } from '../piece/barText.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { barLength } from '../piece/piece.ts';
import { refused } from '../problem/problem.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Sets all holds and breaths of a bar; an empty list takes them out. */
export const setHolds: EditKind<'setHolds'> = (piece, { bar: index, holds }) => {
  const { holds: _were, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  if (holds.some((hold) => hold.atWholes.n < 0 || compare(hold.atWholes, barLength(bar)) >= 0)) {
    return refused(`That position is outside ${name}`, { bar: name });
  }
  if (holds.length === 0) return withBar(piece, index, bar, `Holds taken out of ${name}`);
  const says = holds.map((hold) => `${hold.kind} ${formatHoldLength(hold.length)}`).join(', ');
  return withBar(piece, index, { ...bar, holds }, `${name}: ${says}`);
};
