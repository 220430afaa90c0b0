import { ofOneShape, type Bar } from '../piece/piece.ts';
import { refused } from '../problem/problem.ts';
import { howMany } from '../words/howMany.ts';
import { says, spanName, splicedMaybe } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Writes a cycle of bars out again after itself: meters, pulse and rhythm, not marks, signs or labels. */
export const repeatBars: EditKind<'repeatBars'> = (piece, { from, count, times }) => {
  if (times < 1) return refused('Say how many more times: 1 or more');
  const cycle = piece.bars.slice(from, from + count).map(withoutMarks);
  const copies = Array.from({ length: times }, () => cycle).flat();
  return says(
    splicedMaybe(piece, from + count, 0, copies),
    `${spanName(piece, { from, count })} written out ${howMany(times, 'more time')}`,
  );
};

function withoutMarks({ meter, partial, pulse, rhythm }: Bar): Bar {
  return ofOneShape({ meter, partial, tempoMarks: [], pulse, rhythm });
}
