import {
  add,
  compare,
  noteValueLength,
  NOTE_BASES,
  singleNoteMaybe,
  subtract,
  sum,
  ZERO,
  type Fraction,
  type RhythmNote,
} from '@anchorbeat/core';
import type { VoiceNote } from './measure.ts';

/** The notes of a voice from the barline on, gaps filled with rests; null where one cannot be written. */
export function lineOf(voice: readonly VoiceNote[], barLength: Fraction): readonly RhythmNote[] | null {
  const line: RhythmNote[] = [];
  let at: Fraction = ZERO;
  for (const note of voice) {
    if (compare(note.at, at) < 0) return null;
    const gap = restsFilling(subtract(note.at, at));
    if (!gap) return null;
    line.push(...gap);
    if (note.isRest) {
      const rests = note.value ? [{ value: note.value, isRest: true as const }] : restsFilling(note.length);
      if (!rests) return null;
      line.push(...rests);
    } else if (note.value) line.push({ value: note.value, ...(note.isTied && { isTied: true as const }) });
    else return null;
    at = add(note.at, note.length);
  }
  const missing = subtract(barLength, at);
  const rests = line.some((note) => !note.isRest) && missing.n > 0 ? null : restsFilling(missing);
  return rests ? [...line, ...rests] : line;
}

/** Rests that fill a length, the longest first; null where none do. */
function restsFilling(length: Fraction): readonly RhythmNote[] | null {
  const rests: RhythmNote[] = [];
  let left = length;
  while (left.n > 0) {
    const value = singleNoteMaybe(left) ?? largestBelow(left);
    if (!value || rests.length > 32) return null;
    rests.push({ value, isRest: true });
    left = subtract(left, noteValueLength(value));
  }
  return rests;
}

function largestBelow(length: Fraction): RhythmNote['value'] | null {
  const base = NOTE_BASES.find(
    (each) => compare(noteValueLength({ base: each, dots: 0, tuplets: [] }), length) <= 0,
  );
  return base ? { base, dots: 0, tuplets: [] } : null;
}

export function lengthOf(line: readonly RhythmNote[]): Fraction {
  return sum(line.map(({ value }) => noteValueLength(value)));
}

export function soundingCount(line: readonly RhythmNote[]): number {
  return line.filter(({ isRest }) => !isRest).length;
}
