import { barLabels, barName } from '../piece/labels.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Prints a label of its own on a bar; null prints none; undefined lets it count on. */
export const setLabel: EditKind<'setLabel'> = (piece, { bar: index, label }) => {
  const { label: _was, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  const now = label === undefined ? 'counts on' : label === null ? 'has no number' : `is labelled ${label}`;
  return withBar(piece, index, label === undefined ? bar : { ...bar, label }, `${name} ${now}`);
};
