import { formatMeter, type Meter } from '@anchorbeat/core';
import type { NoteTaker } from '../notes.ts';
import type { PartMeasure } from './measure.ts';

type Columns = ReadonlyArray<readonly PartMeasure[]>;
type Times = NonNullable<PartMeasure['times']>;

/**
 * How often each repeat is played where words over it say so and its sign does not, by the bar that goes back: words
 * belong to the first close at or after them, unless another repeat opens before it.
 */
export function timesInWords(
  columns: Columns,
  names: readonly string[],
  notes: NoteTaker,
): ReadonlyMap<number, Times> {
  const found = new Map<number, Times>();
  columns.forEach((column, index) => {
    const times = column.find((measure) => measure.times !== undefined)?.times;
    if (times === undefined) return;
    const says = times === 'until cued' ? 'until a cue' : `${times} times`;
    const close = closeFrom(columns, index);
    if (close === null)
      notes.leftOut(`words that something is played ${says}, without a repeat`, names[index]);
    else if (columns[close]?.some(({ endsRepeat }) => endsRepeat !== null && endsRepeat > 0)) return;
    else {
      found.set(close, times);
      notes.guessed(`the repeat was taken to be played ${says}, as words over it say`, names[close]);
    }
  });
  return found;
}

function closeFrom(columns: Columns, from: number): number | null {
  for (let index = from; index < columns.length; index++) {
    const column = columns[index] ?? [];
    if (index > from && column.some(({ startsRepeat }) => startsRepeat)) return null;
    if (column.some(({ endsRepeat }) => endsRepeat !== null)) return index;
  }
  return null;
}

/** How bars are beaten, where words say "in 2": from there on, until other words say so or the meter changes. */
export function pulsesInWords(
  columns: Columns,
  meters: readonly Meter[],
  names: readonly string[],
  notes: NoteTaker,
): ReadonlyArray<string | null> {
  let now: string | null = null;
  return columns.map((column, index) => {
    const [meter, before] = [meters[index], meters[index - 1]];
    if (meter && before && formatMeter(meter) !== formatMeter(before)) now = null;
    const said = column.find(({ pulse }) => pulse !== undefined)?.pulse;
    if (said !== undefined) {
      now = said;
      notes.guessed(`"${said}" was taken to hold up to the next meter`, names[index]);
    }
    return now;
  });
}
