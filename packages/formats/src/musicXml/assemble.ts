import {
  compare,
  equal,
  formatMeter,
  fraction,
  howMany,
  meterForLengthMaybe,
  meterLength,
  multiply,
  parseMeter,
  type BarDocument,
  type Meter,
} from '@anchorbeat/core';
import type { NoteTaker } from '../notes.ts';
import { BarBuilder, longestEnd } from './barBuilder.ts';
import type { PartMeasure } from './measure.ts';
import { addSections } from './sections.ts';

/** The parts of a score, each with its bars in order. */
export interface ScorePart {
  readonly name: string;
  readonly measures: readonly PartMeasure[];
}

export class ScoreProblem extends Error {
  constructor(
    message: string,
    readonly bar: string,
  ) {
    super(message);
  }
}

export interface AssembledScore {
  readonly bars: readonly BarDocument[];
  readonly sections: readonly string[];
  readonly key: string | null;
  readonly takesRepeatsAfterJump: boolean;
  readonly read: readonly string[];
}

/**
 * Puts the parts together bar by bar: meters, numbers, tempo and route from whichever part has them, the first part that
 * does being believed; notes from the fullest line; every part a section.
 * @throws ScoreProblem for a bar without a meter (senza misura).
 */
export function assemble(parts: readonly ScorePart[], notes: NoteTaker): AssembledScore {
  const count = Math.max(0, ...parts.map(({ measures }) => measures.length));
  const columns = Array.from({ length: count }, (_, index) =>
    parts.map(({ measures }) => measures[index]).filter((measure) => measure !== undefined),
  );
  const names = columns.map((column, index) => nameOf(column, index));
  const meters = metersOf(columns, names, notes);
  const bars = new BarBuilder(columns, names, meters, notes).build();
  const sections = addSections(bars, parts, notes);
  if (!bars[0]?.tempo?.some(({ at, tempo }) => at === undefined && tempo !== undefined))
    notes.guessed('no tempo is written at the beginning; quarter = 96 is played until there is one');
  const marks = bars.reduce((total, bar) => total + (bar.tempo?.length ?? 0), 0);
  return {
    bars,
    sections,
    takesRepeatsAfterJump: takesRepeats(columns),
    key: keyOf(columns),
    read: [
      howMany(bars.length, 'bar'),
      howMany(bars.filter(({ meter }) => meter !== undefined).length, 'meter sign'),
      howMany(marks, 'tempo mark'),
      howMany(bars.filter(({ rehearsalMark }) => rehearsalMark !== undefined).length, 'rehearsal mark'),
      howMany(parts.length, 'part'),
    ],
  };
}

/** Whether repeats are taken after a jump. What stands behind the last jump, as in a coda, says nothing of those before it. */
function takesRepeats(columns: ReadonlyArray<readonly PartMeasure[]>): boolean {
  const lastJump = columns.findLastIndex((column) => column.some(({ route }) => route.jump !== undefined));
  return columns
    .slice(0, lastJump + 1)
    .flat()
    .some((measure) => measure.takesRepeatsAfterJump);
}

/** The key most parts have where the first one is written: drums are often written without any, which reads as C. */
function keyOf(columns: ReadonlyArray<readonly PartMeasure[]>): string | null {
  const first = columns.find((column) => column.some(({ key }) => key !== null)) ?? [];
  const keys = first.map(({ key }) => key).filter((key) => key !== null);
  const countOf = (key: string) => keys.filter((other) => other === key).length;
  return keys.reduce<string | null>(
    (best, key) => (best && countOf(best) >= countOf(key) ? best : key),
    null,
  );
}

function nameOf(column: readonly PartMeasure[], index: number): string {
  return column.find(({ number }) => number !== '')?.number ?? `after ${index}`;
}

/** A bar that all its parts fill equally far beyond its meter is a longer bar, for itself; null for any other. */
function overfullMaybe(
  column: readonly PartMeasure[],
  meter: Meter,
  name: string,
  notes: NoteTaker,
): Meter | null {
  const [full, length] = [meterLength(meter), longestEnd(column)];
  // What is twice as long is two voices written one after the other by mistake.
  if (compare(length, full) <= 0 || compare(length, multiply(full, fraction(2))) >= 0) return null;
  if (!column.some(({ isSounding }) => isSounding)) return null;
  if (column.some(({ end }) => end.n > 0 && !equal(end, length))) return null;
  const longer = meterForLengthMaybe(length, meter.parts.at(-1)?.unit ?? 4);
  const reading = longer && parseMeter(`${longer.count}/${longer.unit}`);
  if (!reading?.ok) return null;
  notes.guessed(
    `the notes of a bar make ${formatMeter(reading.value)}: it was taken for one of that meter`,
    name,
  );
  return reading.value;
}

/** The meter of every bar. Where the file begins without one it is reckoned from the notes. */
function metersOf(
  columns: ReadonlyArray<readonly PartMeasure[]>,
  names: readonly string[],
  notes: NoteTaker,
): readonly Meter[] {
  let current: Meter | null = null;
  return columns.map((column, index) => {
    const name = names[index] ?? '';
    if (column.some(({ isSenzaMisura }) => isSenzaMisura))
      throw new ScoreProblem(
        'This bar is written without a meter (senza misura); give it one in the program that made the file, since a click needs beats',
        name,
      );
    const written = column.filter(({ meter }) => meter !== null).map(({ meter }) => meter as string);
    const reading = written[0] === undefined ? null : parseMeter(written[0]);
    if (written.some((meter) => meter !== written[0]))
      notes.finding(`parts have different meters here; ${written[0] ?? ''} was taken`, name);
    if (reading?.ok) current = reading.value;
    else if (reading) notes.leftOut(`the meter ${written[0] ?? ''}: ${reading.problem.message}`, name);
    // A bar with a sign of its own is what that says.
    if (current) return (written.length === 0 && overfullMaybe(column, current, name, notes)) || current;
    const length = longestEnd(column);
    const guess = length.n > 0 ? meterForLengthMaybe(length, 4) : null;
    const guessed = parseMeter(guess ? `${guess.count}/${guess.unit}` : '4/4');
    if (!guessed.ok)
      throw new ScoreProblem(
        `No meter is written here, and the notes make one of ${guessed.problem.message}`,
        name,
      );
    const meter = guessed.value;
    notes.guessed(
      `no meter is written; ${formatMeter(meter)} was reckoned from the notes`,
      index === 0 ? name : null,
    );
    return meter;
  });
}
