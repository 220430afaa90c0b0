import { parseRhythm, type Piece } from '@anchorbeat/core';
import { COLUMNS } from './columns.ts';

/** The columns that say which bars a row stands for, and what else people call them. */
const BAR_COLUMNS: Readonly<Record<string, readonly string[]>> = {
  number: [
    'bar',
    'bar number',
    'bar no',
    'label',
    'no',
    'measure',
    'measure number',
    'measure no',
    'm',
    'mm',
  ],
  bars: ['measures', 'number of bars', 'bar count', 'how many bars'],
  meter: ['metre', 'time signature', 'time sig', 'time', 'signature'],
  pickup: ['anacrusis', 'upbeat'],
};
const RANGE = /^(\d{1,5})\s*[-–—]\s*(\d{1,5})$/;

/** What each heading names, by our own names of the columns; null for one that nobody knows. */
export function columnsNamed(
  headings: readonly string[],
  rows: readonly (readonly string[])[],
): ReadonlyArray<string | null> {
  const named = headings.map((heading) => nameMaybe(plain(heading)));
  const hasMark = named.includes('mark');
  // Of two that could be meant, such as "time" and "meter", the one of that very name.
  const columnOf = (name: string) => {
    const own = headings.findIndex((heading) => plain(heading) === name);
    return own >= 0 ? own : named.indexOf(name);
  };
  return named.map((name, index) => {
    // Where a song's parts are called sections, their names are its rehearsal marks.
    if (name === null && !hasMark && plain(headings[index] ?? '') === 'section') return 'mark';
    const isRemarks = name === 'notes' && !holdsRhythms(rows.map((row) => row[index] ?? ''));
    return isRemarks || (name !== null && columnOf(name) !== index) ? null : name;
  });
}

function plain(heading: string): string {
  return heading.toLowerCase().replace(/[.#:]/g, ' ').replace(/\s+/g, ' ').trim();
}

function nameMaybe(heading: string): string | null {
  const ofBars = Object.entries(BAR_COLUMNS).find(
    ([name, also]) => name === heading || also.includes(heading),
  );
  return (
    ofBars?.[0] ?? COLUMNS.find(({ name, also }) => name === heading || also.includes(heading))?.name ?? null
  );
}

/** A column of notes is one of remarks where none of its cells is a rhythm. */
function holdsRhythms(cells: readonly string[]): boolean {
  const written = cells.filter((cell) => cell.trim() !== '');
  return written.length === 0 || written.some((cell) => parseRhythm(cell.trim()).ok);
}

/** The first and the last bar of "9-12"; null for other words. */
export function rangeMaybe(cell: string): { readonly from: number; readonly to: number } | null {
  const range = RANGE.exec(cell);
  return range && { from: Number(range[1]), to: Number(range[2]) };
}

/**
 * How many bars each row stands for in a table that names only the bars where something changes (1, 9, 13 …), the last
 * lasting to the end of a piece of `barCount` bars. Null for a table of another kind: where most bars are named, or another
 * column says how many bars. Ours writes `number` and `pickup`, and a row for every bar.
 */
export function barsBetween(
  columns: ReadonlyArray<string | null>,
  rows: readonly (readonly string[])[],
  barCount: number,
): readonly number[] | null {
  const at = columns.indexOf('number');
  if (at < 0 || columns.includes('bars') || columns.includes('pickup')) return null;
  const numbers = rows.map((row) => (/^\d{1,5}$/.test((row[at] ?? '').trim()) ? Number(row[at]) : NaN));
  const steps = numbers.slice(1).map((number, index) => number - (numbers[index] ?? NaN));
  if (!steps.every((step) => step >= 1)) return null;
  const before = steps.reduce((total, step) => total + step, 0);
  const jumps = steps.filter((step) => step > 1).length;
  const isMostlyUnnamed = before + 1 - rows.length > rows.length && jumps * 4 >= steps.length;
  if (jumps * 2 <= steps.length && !isMostlyUnnamed) return null;
  return [...steps, Math.max(1, barCount - before)];
}

/** Whether the first bar is a pickup without a number of its own, of which no column speaks. */
export function keepsPickup(columns: ReadonlyArray<string | null>, { bars: [opening] }: Piece): boolean {
  return opening?.partial?.keeps === 'end' && opening.label == null && !columns.includes('pickup');
}

/** Whether a table begins behind such a pickup, with a bar that has a number: then it says nothing of the pickup, which stays. */
export function leavesPickup(
  columns: ReadonlyArray<string | null>,
  [first]: readonly (readonly string[])[],
  piece: Piece,
): boolean {
  const number = (first?.[columns.indexOf('number')] ?? '').trim();
  return piece.bars.length > 1 && keepsPickup(columns, piece) && /^[1-9]/.test(number);
}
