import { barLabels, compilePiece, writePiece, type CompiledPiece, type Piece } from '@anchorbeat/core';
import { MeasureWriter } from './measureWriter.ts';
import { readMusicXml } from './readMusicXml.ts';
import { UNSAID_FIELD, unsaidTexts } from './unsaid.ts';
import { escaped, tag } from './xmlText.ts';

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';

/**
 * A piece as MusicXML 4.0: one part for the conductor. What MusicXML has no words for, such as a hold until cued, is kept
 * in a field of the file's head, so that it reads back to the same piece.
 */
export function writeMusicXml(piece: Piece): Uint8Array {
  const measures = measuresOf(piece);
  const plain = readMusicXml(encoded(document(piece, measures, [])));
  if (!plain.ok) throw new Error(`what was written does not read: ${plain.problems[0]?.message ?? ''}`);
  const unsaid = unsaidTexts(writePiece(piece), writePiece(plain.piece));
  return encoded(document(piece, measures, unsaid));
}

function encoded(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

function document(piece: Piece, measures: readonly string[], unsaid: readonly string[]): string {
  const fields = unsaid.map((text) => tag('miscellaneous-field', escaped(text), { name: UNSAID_FIELD }));
  const content = [
    tag('work', tag('work-title', escaped(piece.title))),
    piece.subtitle && tag('movement-title', escaped(piece.subtitle)),
    tag('identification', [
      piece.composer && tag('creator', escaped(piece.composer), { type: 'composer' }),
      tag('encoding', tag('software', 'Anchorbeat')),
      fields.length > 0 ? tag('miscellaneous', fields) : '',
    ]),
    tag('part-list', tag('score-part', tag('part-name', 'Conductor'), { id: 'P1' })),
    `\n${tag('part', `\n${measures.join('\n')}\n`, { id: 'P1' })}\n`,
  ];
  return `${HEAD}${tag('score-partwise', content, { version: '4.0' })}\n`;
}

function measuresOf(piece: Piece): readonly string[] {
  const compiled: CompiledPiece = compilePiece(piece);
  const labels = barLabels(piece);
  const writer = new MeasureWriter(piece, compiled, labels);
  return piece.bars.map((_, index) => writer.write(index));
}
