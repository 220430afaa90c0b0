import type { BarDocument } from '../document/document.ts';
import { readPiece } from '../document/readPiece.ts';
import type { Piece } from '../piece/piece.ts';

/** A piece from its bars as they are kept in a file; throws where they do not read. */
export function pieceOf(...bars: readonly BarDocument[]): Piece {
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Test', bars });
  if (reading.ok) return reading.piece;
  throw new Error(reading.problems.map((problem) => `${problem.field}: ${problem.message}`).join('\n'));
}
