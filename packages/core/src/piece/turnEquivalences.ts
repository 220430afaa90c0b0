import type { Piece } from './piece.ts';

/** The piece with every equivalence read the other way round: for a score that prints the new note first. */
export function turnEquivalences(piece: Piece): Piece {
  return {
    ...piece,
    bars: piece.bars.map((bar) => {
      if (!bar.tempoMarks.some(({ equivalence }) => equivalence)) return bar;
      const tempoMarks = bar.tempoMarks.map((mark) => {
        const { equivalence } = mark;
        if (!equivalence) return mark;
        return { ...mark, equivalence: { before: equivalence.after, after: equivalence.before } };
      });
      return { ...bar, tempoMarks };
    }),
  };
}
