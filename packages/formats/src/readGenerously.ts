import {
  barLabels,
  formatMeter,
  readPiece,
  withLoneOddBarsGrouped,
  type Piece,
  type PieceDocument,
  type PieceReading,
} from '@anchorbeat/core';
import type { NoteTaker } from './notes.ts';

const MOST_ROUNDS = 4;
const FIELD_OF_BAR = /^bars\[(\d+)\]\.(\w+)/;

/** Reads a document made from a foreign file; whatever of a bar does not read is left out, and told. */
export function readGenerously(document: PieceDocument, notes: NoteTaker): PieceReading {
  let now = document;
  for (let round = 0; ; round++) {
    const reading = readPiece(now);
    if (reading.ok) return { ...reading, piece: withGroups(reading.piece, notes) };
    if (round === MOST_ROUNDS) return reading;
    const bars = [...now.bars];
    let dropped = 0;
    for (const { field, message, bar } of reading.problems) {
      const match = FIELD_OF_BAR.exec(field ?? '');
      const [index, name] = [Number(match?.[1]), match?.[2] ?? ''];
      const known = bars[index] as Record<string, unknown> | undefined;
      if (!match || !known || !(name in known) || name === 'meter') continue;
      const { [name]: _gone, ...rest } = known;
      bars[index] = rest;
      dropped++;
      notes.leftOut(message, bar);
    }
    if (dropped === 0) return reading;
    now = { ...now, bars };
  }
}

/** Foreign files seldom say how an odd bar is grouped: between equal bars it is beaten like them. */
function withGroups(read: Piece, notes: NoteTaker): Piece {
  const { piece, grouped } = withLoneOddBarsGrouped(read);
  const labels = grouped.length > 0 ? barLabels(piece) : [];
  for (const { barIndex } of grouped) {
    const { meter } = piece.bars[barIndex] ?? {};
    if (meter) notes.guessed(`${formatMeter(meter)}: beaten like the bars around it`, labels[barIndex]);
  }
  return piece;
}
