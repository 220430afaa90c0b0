import {
  inThousands,
  MAX_BARS,
  readShorthand,
  UNSAID,
  type KeptField,
  type Piece,
  type Problem,
  type ShorthandProblem,
} from '@anchorbeat/core';
import Papa from 'papaparse';
import { COLUMNS, type Column } from './columns.ts';
import { barsBetween, columnsNamed, keepsPickup, leavesPickup, rangeMaybe } from './tableShape.ts';

/** What is wrong with a table, and in which cell: rows count from 1 with the headings, as a spreadsheet shows them. */
export interface TableProblem {
  readonly row: number;
  readonly column: string;
  readonly message: string;
}

export interface TableReading {
  /** What the table makes of the piece it was read against; null while something is wrong. */
  readonly piece: Piece | null;
  readonly problems: readonly TableProblem[];
  /** Headings that no column is known by: their cells are left out. */
  readonly unknownColumns: readonly string[];
  /** What the table leaves open, and how it was taken. */
  readonly guessed: readonly string[];
}

const MAX_CHARACTERS = 4_000_000;
/** A cell may have a few lines of its own. */
const MOST_LINES = 3 * MAX_BARS;
const TOO_MANY_ROWS = `This table has more rows than the ${inThousands(MAX_BARS)} bars that a piece holds: split it into movements`;
/** What a spreadsheet makes of 3/4 when it takes it for a date. */
const DATE_OF_METER = /^(\d{1,2})[-.\s]+\p{L}{3,4}\.?$|^\d{4}-\d\d-\d\d/u;
const LEADING_NUMBER = /^\d+/;

/**
 * Reads a bar table (comma, semicolon or tab between cells) against a piece. What its columns do not say stays with the
 * bars it still belongs to.
 */
export function readBarTable(text: string, piece: Piece): TableReading {
  if (text.length > MAX_CHARACTERS) return refusedTable('This table is larger than any piece needs');
  const content = text.replace(/^\uFEFF/, '');
  if (lineCount(content) > MOST_LINES) return refusedTable(TOO_MANY_ROWS);
  const { data } = Papa.parse<string[]>(content, { delimiter: delimiterOf(content) });
  if (data.length > MAX_BARS + 2) return refusedTable(TOO_MANY_ROWS);
  const [headings = [], ...lines] = data;
  const rows = lines
    .map((cells, index) => ({ cells, row: index + 2 }))
    .filter(({ cells }) => !isEmpty(cells));
  const cellsOf = rows.map(({ cells }) => cells);
  const columns = columnsNamed(headings, cellsOf);
  if (!saysBars(columns)) {
    return refusedTable('The first row should name the columns, at least "meter": meter, tempo, mark');
  }
  const pickup = leavesPickup(columns, cellsOf, piece) ? piece.bars.slice(0, 1) : [];
  const held = { ...piece, bars: piece.bars.slice(pickup.length) };
  const between = barsBetween(columns, cellsOf, held.bars.length);
  const writer = new LineWriter(columns, headings, keepsPickup(columns, held));
  rows.forEach(({ cells, row }, index) => writer.row(cells, row, between?.[index] ?? 1));
  if (writer.problems.length > 0) return { ...nothing, problems: writer.problems };
  const reading = readShorthand(writer.text, held, writer.unsaid);
  return {
    piece: reading.piece && { ...reading.piece, bars: [...pickup, ...reading.piece.bars] },
    problems: reading.problems.map((problem) => writer.cellOf(problem)),
    unknownColumns: headings.filter((_, index) => columns[index] === null),
    guessed: [...(pickup.length > 0 ? [PICKUP] : []), ...(between ? [BETWEEN] : [])],
  };
}

const PICKUP = 'the table says nothing of the pickup, which stays as it is';
const BETWEEN =
  'only some bars are named: those between go on as they are, and the last row lasts to the end of the piece';

/** Whether a text's first row names columns of a bar table. */
export function isBarTable(text: string): boolean {
  const delimiter = delimiterOf(text);
  const { data } = Papa.parse<string[]>(text, { delimiter, preview: 1 });
  return delimiter !== ',' || saysBars(columnsNamed(data[0] ?? [], []));
}

function saysBars(columns: ReadonlyArray<string | null>): boolean {
  return columns.includes('meter') || columns.includes('bars');
}

function isEmpty(cells: readonly string[]): boolean {
  return cells.every((cell) => cell.trim() === '');
}

function lineCount(text: string): number {
  let count = 1;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) count++;
  return count;
}

/** What stands between the headings; guessing from the cells would take the commas of a tempo for it. */
function delimiterOf(content: string): string {
  const headings = content.trimStart().split(/\r?\n/, 1)[0] ?? '';
  const countOf = (sign: string) => headings.split(sign).length;
  return ['\t', ';', ','].reduce((best, sign) => (countOf(sign) > countOf(best) ? sign : best), ',');
}

const nothing = { piece: null, problems: [], unknownColumns: [], guessed: [] };

function refusedTable(message: string): TableReading {
  return { ...nothing, problems: [{ row: 1, column: '', message }] };
}

/** Writes the rows as shorthand and remembers which cell every line came from. */
class LineWriter {
  text = '';
  readonly problems: TableProblem[] = [];
  private readonly lines: Array<{ readonly from: number; readonly row: number; readonly column: string }> =
    [];
  private meterBefore = '';
  private nextNumber = 1;

  constructor(
    private readonly columns: ReadonlyArray<string | null>,
    private readonly headings: readonly string[],
    private readonly opensWithPickup: boolean,
  ) {}

  /** Fields no column of this table speaks of. */
  get unsaid(): readonly KeptField[] {
    const missing = COLUMNS.filter(({ name }) => !this.columns.includes(name));
    const saysNumber = this.columns.includes('number');
    const fields = new Set([...UNSAID, ...missing.flatMap(({ says }) => says)]);
    if (this.columns.includes('pickup')) fields.delete('partial');
    return [...fields, ...(saysNumber ? [] : (['label'] as const))];
  }

  /** Writes a row that stands for `most` bars, unless it says how many itself. */
  row(cells: readonly string[], row: number, most: number): void {
    const cell = (name: string) => unescaped(cells[this.columns.indexOf(name)] ?? '').trim();
    const [numbers, barsNamed] = [rangeMaybe(cell('number')), rangeMaybe(cell('bars'))];
    const range = numbers ?? barsNamed;
    if (range && range.to < range.from)
      return this.fault(row, numbers ? 'number' : 'bars', `Bars ${range.from} to ${range.to} run backwards`);
    const ownBars = barsNamed ? '' : cell('bars');
    const bars = ownBars || String(range ? range.to - range.from + 1 : most);
    const number = range ? String(range.from) : cell('number');
    const meter = cell('meter') || this.meterBefore;
    if (DATE_OF_METER.test(meter)) {
      const message = `"${meter}" is a date: the spreadsheet took the meter for one. Set the column to text and write it again`;
      return this.fault(row, 'meter', message);
    }
    const isFirst = this.lines.length === 0;
    const pickup = cell('pickup');
    // A pickup at the start has no number unless the table gives it one.
    const isNumbered = this.numberLine(number, row, isFirst && (pickup !== '' || this.opensWithPickup));
    this.partLines('before', cells, row);
    const clauses = this.clauses(cells);
    this.line(
      pickup ? `pickup of ${pickup} in ${meter}${clauses}` : `${bars} bars of ${meter}${clauses}`,
      row,
      'meter',
    );
    this.partLines('after', cells, row);
    this.meterBefore = meter;
    this.nextNumber += (Number(bars) || 1) - (isNumbered ? 0 : 1);
  }

  /** The cell a problem of the text stands for. */
  cellOf({ from, message }: ShorthandProblem): TableProblem {
    const line = this.lines.findLast((known) => known.from <= from) ?? { row: 1, column: '' };
    return { row: line.row, column: this.headingOf(line.column), message };
  }

  private fault(row: number, name: string, message: string): void {
    this.problems.push({ row, column: this.headingOf(name), message });
  }

  /** What the table itself calls one of our columns. */
  private headingOf(name: string): string {
    return (this.headings[this.columns.indexOf(name)] ?? name).trim().toLowerCase();
  }

  /** A printed number is said only where it does not count on. True where the bar has a number to count on from. */
  private numberLine(number: string, row: number, isOpeningPickup: boolean): boolean {
    if (number === '') return !isOpeningPickup;
    if (number === String(this.nextNumber) && !isOpeningPickup) return true;
    const isNone = /^(none|-|—)$/i.test(number);
    this.line(isNone ? 'no number' : `number ${number}`, row, 'number');
    const printed = isNone ? undefined : LEADING_NUMBER.exec(number)?.[0];
    this.nextNumber = Number(printed ?? this.nextNumber);
    return printed !== undefined;
  }

  private partLines(place: Column['place'], cells: readonly string[], row: number): void {
    this.columns.forEach((name, index) => {
      const column = columnMaybe(name);
      if (column?.place !== place) return;
      for (const part of partsOf(unescaped(cells[index] ?? '')))
        this.line(column.read(part), row, column.name);
    });
  }

  private clauses(cells: readonly string[]): string {
    return this.columns
      .flatMap((name, index) => {
        const column = columnMaybe(name);
        const text = unescaped(cells[index] ?? '').trim();
        return column?.place === 'bar' && text !== '' ? [`, ${column.read(text)}`] : [];
      })
      .join('');
  }

  private line(text: string, row: number, column: string): void {
    this.lines.push({ from: this.text.length, row, column });
    this.text += `${text.replaceAll(/\s+/g, ' ')}\n`;
  }
}

function columnMaybe(name: string | null): Column | undefined {
  return COLUMNS.find((column) => column.name === name);
}

/** Parts between semicolons; those in quotes do not divide. */
function partsOf(cell: string): readonly string[] {
  const parts = cell.match(/(?:"[^"]*"|[^;"])+/g) ?? [];
  return parts.map((part) => part.trim()).filter((part) => part !== '');
}

/** A cell that begins like a formula was written with an apostrophe before it. */
function unescaped(cell: string): string {
  return /^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell;
}

/** A problem of a table as one of a file. */
export function asFileProblem({ row, column, message }: TableProblem): Problem {
  return { field: column ? `row ${row}, ${column}` : `row ${row}`, message };
}
