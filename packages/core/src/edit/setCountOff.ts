import { barLabels, barName } from '../piece/labels.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Keeps how a bar is counted in; undefined counts it in plainly. */
export const setCountOff: EditKind<'setCountOff'> = (piece, { bar: index, countOff }) => {
  const name = barName(barLabels(piece), index);
  const says = countOff ? `Count-off into ${name} set` : `${name} is counted in plainly`;
  return withBar(piece, index, { ...barAt(piece, index), countOff }, says);
};
