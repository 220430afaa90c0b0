import { spanName, says, splicedMaybe } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Takes bars out, with the marks that stand in them. */
export const deleteBars: EditKind<'deleteBars'> = (piece, { from, count }) => {
  const marks = piece.bars.slice(from, from + count).filter((bar) => bar.tempoMarks.length > 0).length;
  const withMarks = marks > 0 ? ', with the tempo marks in them' : '';
  return says(
    splicedMaybe(piece, from, count, []),
    `${spanName(piece, { from, count })} deleted${withMarks}`,
  );
};
