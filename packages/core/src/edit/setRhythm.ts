import { barLabels, barName } from '../piece/labels.ts';
import { formatRhythm } from '../rhythm/text.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Writes the notes of a bar, or takes them out with undefined. */
export const setRhythm: EditKind<'setRhythm'> = (piece, { bar: index, rhythm }) => {
  const { rhythm: _was, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  if (!rhythm) return withBar(piece, index, bar, `Notes taken out of ${name}`);
  return withBar(piece, index, { ...bar, rhythm }, `Notes of ${name}: ${formatRhythm(rhythm)}`);
};
