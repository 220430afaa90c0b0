import { writePiece } from '../document/writePiece.ts';
import type { Piece } from '../piece/piece.ts';

/**
 * What a place looks like to a check: the bar and its neighbours, without labels and answers. An answer holds
 * while this stays the same, wherever the bars are moved to.
 */
export function lookOf(piece: Piece, barIndex: number): string {
  const around = piece.bars.slice(Math.max(0, barIndex - 1), barIndex + 2);
  const bare = around.map(
    ({ label: _label, answers: _answers, note: _note, sectionMarks: _marks, ...bar }) => bar,
  );
  return JSON.stringify(writePiece({ title: '', subtitle: '', composer: '', bars: bare }).bars);
}

/** The reason a director gave for a finding, or null where there is none or the place has changed since. */
export function answerTo(piece: Piece, check: string, barIndex: number): string | null {
  const answers = piece.bars[barIndex]?.answers?.filter((answer) => answer.check === check);
  if (!answers?.length) return null;
  const look = lookOf(piece, barIndex);
  return answers.find((answer) => answer.about === look)?.reason ?? null;
}
