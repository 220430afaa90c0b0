import type { BarDocument, BarLines, KeptField } from '@anchorbeat/core';

/** What one bar says, put ready for the cells of its row. */
interface RowSource {
  readonly label: string | null;
  readonly meter: string;
  readonly document: BarDocument;
  readonly lines: BarLines;
}

/**
 * One column of a bar table. A cell becomes lines of the shorthand before or after the line of its bar, or a clause of that
 * line, so that a table and a text mean the same by the same words.
 */
export interface Column {
  readonly name: string;
  /** Other headings it is known by. */
  readonly also: readonly string[];
  /** Fields of a bar that this column says; without the column they stay as they are. */
  readonly says: readonly KeptField[];
  readonly write: (source: RowSource) => string;
  readonly place: 'before' | 'bar' | 'after';
  /** The shorthand for one part of a cell; `place` says where it goes. */
  readonly read: (part: string) => string;
}

const itself = (part: string) => part;
const after = (word: string) => (part: string) => `${word} ${part}`;
const withoutWord = (word: string, lines: readonly string[]) =>
  lines.map((line) => line.replace(new RegExp(`^${word} `), '')).join('; ');

/** The columns that are more than the length of a bar, in the order they are written. Listed once. */
export const COLUMNS: readonly Column[] = [
  {
    name: 'mark',
    also: ['rehearsal mark', 'rehearsal letter', 'rehearsal', 'letter', 'figure'],
    says: ['rehearsalMark'],
    write: ({ document }) => document.rehearsalMark ?? '',
    place: 'before',
    read: after('mark'),
  },
  {
    name: 'at start',
    also: ['start', 'opens'],
    says: ['startsRepeat'],
    write: ({ lines }) => lines.atStart.join('; '),
    place: 'before',
    read: itself,
  },
  {
    name: 'tempo',
    also: ['tempo mark', 'tempi', 'bpm'],
    says: ['tempoMarks'],
    write: ({ lines }) => withoutWord('tempo', lines.tempo),
    place: 'before',
    read: after('tempo'),
  },
  {
    name: 'hold',
    also: ['holds', 'fermata'],
    says: ['holds'],
    write: ({ lines }) => withoutWord('hold', lines.holds),
    place: 'before',
    read: (part) => (/^breath\b/i.test(part) ? part : `hold ${part}`),
  },
  {
    name: 'cut to',
    also: [],
    says: ['partial'],
    write: ({ document }) => document.cutTo ?? '',
    place: 'bar',
    read: after('cut to'),
  },
  {
    name: 'beaten',
    also: ['pulse'],
    says: ['pulse'],
    write: ({ document }) => document.pulse ?? '',
    place: 'bar',
    read: after('beaten'),
  },
  {
    name: 'notes',
    also: ['rhythm'],
    says: ['rhythm'],
    write: ({ document }) => document.rhythm ?? '',
    place: 'bar',
    read: after('notes'),
  },
  {
    name: 'ending',
    also: [],
    says: ['ending'],
    write: ({ document }) => document.ending ?? '',
    place: 'bar',
    read: after('ending'),
  },
  {
    name: 'at end',
    also: ['end', 'closes'],
    says: ['endsRepeat', 'navigation'],
    write: ({ lines }) => lines.atEnd.join('; '),
    place: 'after',
    read: itself,
  },
];
