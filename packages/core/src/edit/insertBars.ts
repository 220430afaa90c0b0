import { formatMeter } from '../meter/text.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { ofOneShape } from '../piece/piece.ts';
import { refused } from '../problem/problem.ts';
import { howMany } from '../words/howMany.ts';
import { barAt, says, splicedMaybe } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Puts empty bars before index `at`, in a given meter or the one that stands before them. */
export const insertBars: EditKind<'insertBars'> = (piece, { at, count, meter }) => {
  if (count < 1) return refused('Say how many bars to add: 1 or more');
  const neighbour = barAt(piece, Math.max(0, at - 1));
  const bar = ofOneShape({ meter: meter ?? neighbour.meter, tempoMarks: [] });
  const after = at === 0 ? 'at the start' : `after ${barName(barLabels(piece), at - 1)}`;
  return says(
    splicedMaybe(
      piece,
      at,
      0,
      Array.from({ length: count }, () => bar),
    ),
    `${howMany(count, 'bar')} of ${formatMeter(bar.meter)} added ${after}`,
  );
};
