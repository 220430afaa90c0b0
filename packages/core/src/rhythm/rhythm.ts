import {
  add,
  compare,
  fraction,
  subtract,
  sum,
  toNumber,
  ZERO,
  type Fraction,
} from '../fraction/fraction.ts';
import { noteValueLength, type NoteValue } from '../value/noteValue.ts';

/** One written note or rest; a tied note sounds on into the next. */
export interface RhythmNote {
  readonly value: NoteValue;
  readonly isRest?: true;
  readonly isTied?: true;
}

/** The notes of a bar in order, as one line of the texture has them. */
export type Rhythm = readonly RhythmNote[];

export function rhythmLength(rhythm: Rhythm): Fraction {
  const known = lengths.get(rhythm);
  if (known) return known;
  const length = sum(rhythm.map((note) => noteValueLength(note.value)));
  lengths.set(rhythm, length);
  return length;
}

const lengths = new WeakMap<Rhythm, Fraction>();

/** The shortest note that sounds, in whole notes; null in a bar of rests. */
export function shortestNoteMaybe(rhythm: Rhythm): number | null {
  const known = shortest.get(rhythm);
  if (known !== undefined) return known;
  const sounding = rhythm.filter((note) => !note.isRest).map((note) => toNumber(noteValueLength(note.value)));
  const found = sounding.length > 0 ? Math.min(...sounding) : null;
  shortest.set(rhythm, found);
  return found;
}

const shortest = new WeakMap<Rhythm, number | null>();

/** Where notes begin to sound, in whole notes from the barline; a tie from before begins nothing. */
export function rhythmOnsets(rhythm: Rhythm, isTiedInto = false): readonly Fraction[] {
  const onsets: Fraction[] = [];
  let at = ZERO;
  let isTied = isTiedInto;
  for (const note of rhythm) {
    if (!note.isRest && !isTied) onsets.push(at);
    isTied = note.isTied === true && !note.isRest;
    at = add(at, noteValueLength(note.value));
  }
  return onsets;
}

/** How a rhythm fills a length: what is missing (positive) or over (negative), in whole notes. */
export function missingFrom(lengthWholes: Fraction, rhythm: Rhythm): Fraction {
  return subtract(lengthWholes, rhythmLength(rhythm));
}

/** The meter, over the coarsest unit not coarser than `unit`, that a length would fill: { count: 9, unit: 16 }; null where none does. */
export function meterForLengthMaybe(
  lengthWholes: Fraction,
  unit: number,
): { readonly count: number; readonly unit: number } | null {
  for (let candidate = unit; candidate <= 128; candidate *= 2) {
    const count = (lengthWholes.n * candidate) / lengthWholes.d;
    if (Number.isInteger(count) && count > 0) return { count, unit: candidate };
  }
  return null;
}

/** Whether two rhythms, each repeated, are heard as the same pulse from their starts on. */
export function soundsAlike(a: readonly Fraction[], b: readonly Fraction[]): boolean {
  return a.length === b.length && a.every((onset, index) => compare(onset, b[index] ?? fraction(-1)) === 0);
}
