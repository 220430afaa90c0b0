import type { Piece } from '../piece/piece.ts';
import { writeBar } from './barFields.ts';
import { PIECE_FORMAT, PIECE_FORMAT_VERSION, type BarDocument, type PieceDocument } from './document.ts';

/** The document of a piece: `readPiece` gives the same piece back. */
export function writePiece(piece: Piece): PieceDocument {
  return {
    format: PIECE_FORMAT,
    version: PIECE_FORMAT_VERSION,
    title: piece.title,
    ...(piece.subtitle && { subtitle: piece.subtitle }),
    ...(piece.composer && { composer: piece.composer }),
    ...(piece.key !== undefined && { key: piece.key }),
    ...(piece.style !== undefined && { style: piece.style }),
    ...(piece.sections && { sections: piece.sections }),
    ...(piece.corrections && { corrections: piece.corrections }),
    ...(piece.takesRepeatsAfterJump && { takesRepeatsAfterJump: true as const }),
    bars: writeBars(piece.bars),
  };
}

/** A meter stands where it changes. */
function writeBars(bars: Piece['bars']): readonly BarDocument[] {
  let meterBefore: string | undefined;
  return bars.map((bar) => {
    const { meter, ...rest } = writeBar(bar);
    const isSame = meter === meterBefore;
    meterBefore = meter;
    return isSame || meter === undefined ? rest : { meter, ...rest };
  });
}
