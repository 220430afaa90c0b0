import { barLabels, barName } from '../piece/labels.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Sets or, with undefined, removes the rehearsal mark at the start of a bar. */
export const setRehearsalMark: EditKind<'setRehearsalMark'> = (piece, { bar: index, mark }) => {
  const { rehearsalMark: was, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  return mark === undefined
    ? withBar(piece, index, bar, `Rehearsal mark ${was ?? ''} taken off ${name}`)
    : withBar(piece, index, { ...bar, rehearsalMark: mark }, `Rehearsal mark ${mark} at ${name}`);
};
