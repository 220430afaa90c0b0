import { barLabels, barName } from '../piece/labels.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Writes a word to the ensemble at a bar, or takes it out with undefined. */
export const setNote: EditKind<'setNote'> = (piece, { bar: index, note }) => {
  const name = barName(barLabels(piece), index);
  const says = note === undefined ? `Note taken out of ${name}` : `Note at ${name}: ${note}`;
  return withBar(piece, index, { ...barAt(piece, index), note }, says);
};
