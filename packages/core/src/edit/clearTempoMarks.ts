import { accepted, refused } from '../problem/problem.ts';
import { spanName } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Takes all tempo marks and equivalences out of some bars. */
export const clearTempoMarks: EditKind<'clearTempoMarks'> = (piece, { from, count }) => {
  const isInside = (index: number) => index >= from && index < from + count;
  if (!piece.bars.some((bar, index) => isInside(index) && bar.tempoMarks.length > 0)) {
    return refused(`There is no tempo mark in ${spanName(piece, { from, count })}`);
  }
  const bars = piece.bars.map((bar, index) =>
    isInside(index) && bar.tempoMarks.length > 0 ? { ...bar, tempoMarks: [] } : bar,
  );
  return accepted({
    piece: { ...piece, bars },
    says: `Tempo marks taken out of ${spanName(piece, { from, count })}`,
  });
};
