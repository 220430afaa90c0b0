import {
  barLabels,
  barLinesOf,
  formatMeter,
  howMany,
  writePiece,
  type Bar,
  type Piece,
} from '@anchorbeat/core';
import Papa from 'papaparse';
import type { FileFormat, FileReading } from '../format.ts';
import { NoteTaker } from '../notes.ts';
import { decodedText } from '../decodedText.ts';
import { COLUMNS } from './columns.ts';
import { asFileProblem, readBarTable } from './readBarTable.ts';

/** One row a bar, with headings; a spreadsheet opens it. Sections, notes and answers are not in it. */
export const barTable: FileFormat = {
  id: 'bar-table',
  name: 'Table of bars',
  endings: ['.csv', '.tsv'],
  mediaType: 'text/csv; charset=utf-8',
  read: (bytes) => readTableText(decodedText(bytes)),
  write: (piece) => new TextEncoder().encode(writeBarTable(piece)),
};

/** The bars as comma separated text, cells that begin like a formula made harmless. */
export function writeBarTable(piece: Piece): string {
  const labels = barLabels(piece);
  const rows = writePiece(piece).bars.map((document, index) => {
    const bar = piece.bars[index] as Bar;
    const source = {
      label: labels[index] ?? null,
      meter: formatMeter(bar.meter),
      document,
      lines: barLinesOf(document, bar),
    };
    const number = source.label ?? (index === 0 && document.label === undefined ? '' : 'none');
    return [number, source.meter, document.pickup ?? '', ...COLUMNS.map(({ write }) => write(source))];
  });
  const headings = ['number', 'meter', 'pickup', ...COLUMNS.map(({ name }) => name)];
  return `${Papa.unparse([headings, ...rows], { escapeFormulae: /^[=+\-@\t\r]/, newline: '\n' })}\n`;
}

const BLANK: Piece = { title: 'Piece from a table', subtitle: '', composer: '', bars: [] };

/** A table of bars in a text, against no piece. */
export function readTableText(text: string): FileReading {
  const { piece, problems, unknownColumns, guessed } = readBarTable(text, BLANK);
  if (!piece) return { ok: false, problems: problems.map(asFileProblem) };
  const notes = new NoteTaker();
  for (const says of guessed) notes.guessed(says);
  for (const heading of unknownColumns)
    notes.leftOut(`the column "${heading.trim().slice(0, 40)}", which is not known`);
  return { ok: true, piece, notes: notes.notes([howMany(piece.bars.length, 'bar')]) };
}
