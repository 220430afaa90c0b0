import type { NoteBase, Tuplet } from '@anchorbeat/core';

/** SMuFL code points, Bravura. */
const NOTE_GLYPHS: Readonly<Record<NoteBase, string>> = {
  breve: '\uECA0',
  whole: '\uECA2',
  half: '\uECA3',
  quarter: '\uECA5',
  eighth: '\uECA7',
  sixteenth: '\uECA9',
  '32nd': '\uECAB',
  '64th': '\uECAD',
};

const REST_GLYPHS: Readonly<Record<NoteBase, string>> = {
  breve: '\uE4E2',
  whole: '\uE4E3',
  half: '\uE4E4',
  quarter: '\uE4E5',
  eighth: '\uE4E6',
  sixteenth: '\uE4E7',
  '32nd': '\uE4E8',
  '64th': '\uE4E9',
};

export const DOT_GLYPH = '\uECB7';
export const SEGNO_GLYPH = '\uE047';
export const CODA_GLYPH = '\uE048';
const TIME_DIGIT_ZERO = 0xe080;
const TIME_PLUS = '\uE08C';

/** A note without its dots, upright, for text size. */
export function noteGlyph(base: NoteBase): string {
  return NOTE_GLYPHS[base];
}

/** A rest without its dots; it hangs about its own middle, not on the line. */
export function restGlyph(base: NoteBase): string {
  return REST_GLYPHS[base];
}

/** Meter figures: digits and plus signs. */
export function meterGlyphs(figures: string): string {
  return [...figures]
    .map((figure) => (figure === '+' ? TIME_PLUS : String.fromCharCode(TIME_DIGIT_ZERO + Number(figure))))
    .join('');
}

/** What stands over a tuplet note: its number, and its ratio where the number alone would not say it. */
export function tupletFigures(tuplets: readonly Tuplet[]): string {
  return tuplets
    .map(({ actual, normal }) => (isUsual(actual, normal) ? `${actual}` : `${actual}:${normal}`))
    .join(' ');
}

function isUsual(actual: number, normal: number): boolean {
  const usual: Readonly<Record<number, number>> = { 2: 3, 3: 2, 4: 3, 5: 4, 6: 4, 7: 4, 9: 8 };
  return usual[actual] === normal;
}
