import { proofOf } from '../compile/compile.ts';
import type { BarDocument } from '../document/document.ts';
import { readPiece } from '../document/readPiece.ts';
import type { Piece } from '../piece/piece.ts';
import type { Proof } from '../proof/proof.ts';

/** A piece from its bars as they are kept in a file; throws where they do not read. */
export function pieceOf(...bars: readonly BarDocument[]): Piece {
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Test', bars });
  if (reading.ok) return reading.piece;
  throw new Error(reading.problems.map((problem) => `${problem.field}: ${problem.message}`).join('\n'));
}

/** A piece from its bars, and what is compiled from it; throws where they do not read. */
export function proofWith(...bars: readonly BarDocument[]): Proof {
  return proofOf(pieceOf(...bars));
}
