import { accepted, refused, type Result } from '../problem/problem.ts';
import type { Fraction } from '../fraction/fraction.ts';
import { formatFraction } from '../fraction/text.ts';
import { baseWord, CROTCHET_WORDS, inNoteNames } from './names.ts';
import { withNoteLetters } from './noteSigns.ts';
import {
  MAX_DOTS,
  NOTE_BASES,
  noteValue,
  noteValueOfLengthMaybe,
  type NoteBase,
  type NoteValue,
  type Tuplet,
} from './noteValue.ts';

const DOT_WORDS = ['', 'dotted ', 'double-dotted ', 'triple-dotted '] as const;

const TUPLET_NAMES: ReadonlyArray<readonly [name: string, tuplet: Tuplet]> = [
  ['duplet', { actual: 2, normal: 3 }],
  ['triplet', { actual: 3, normal: 2 }],
  ['quadruplet', { actual: 4, normal: 3 }],
  ['quintuplet', { actual: 5, normal: 4 }],
  ['sextuplet', { actual: 6, normal: 4 }],
  ['septuplet', { actual: 7, normal: 4 }],
  ['nonuplet', { actual: 9, normal: 8 }],
];

const LETTERS: Readonly<Record<string, NoteBase>> = {
  b: 'breve',
  w: 'whole',
  h: 'half',
  q: 'quarter',
  e: 'eighth',
  s: 'sixteenth',
  t: '32nd',
  x: '64th',
};

/** Other names of the same notes: figures, and the crotchet's family. */
const OTHER_WORDS: Readonly<Record<string, NoteBase>> = {
  '4th': 'quarter',
  '8th': 'eighth',
  '16th': 'sixteenth',
  'thirty-second': '32nd',
  'sixty-fourth': '64th',
  ...CROTCHET_WORDS,
};
const SHORT_FORM = /^([bwhqestx])(\d?)(\.{0,3})$/;
const RATIO = /^(\d{1,2}):(\d{1,2})$/;

/**
 * Reads a note value as a director says it ("dotted quarter", "triplet eighth", "7:5 sixteenth", "dotted crotchet", "eighth-note")
 * by letter: b w h q e s t x, a digit for a tuplet, points for dots (`q.`, `e3`, `s5`), or drawn: `♩.`
 */
export function parseNoteValue(text: string): Result<NoteValue> {
  const trimmed = withNoteLetters(text).trim().toLowerCase();
  const short = SHORT_FORM.exec(trimmed);
  return short ? fromLetters(short, text) : fromWords(trimmed, text);
}

function fromLetters(
  [, letter = '', digit = '', points = '']: RegExpExecArray,
  text: string,
): Result<NoteValue> {
  const base = LETTERS[letter];
  const named = TUPLET_NAMES.find(([, tuplet]) => String(tuplet.actual) === digit);
  if (!base || (digit && !named)) return notANote(text);
  return accepted(noteValue(base, points.length, named ? [named[1]] : []));
}

function fromWords(trimmed: string, text: string): Result<NoteValue> {
  const words = plainWords(trimmed).split(/\s+/);
  const base = baseNamed(words.pop() ?? '');
  if (!base) return notANote(text);
  let dots = 0;
  const tuplets: Tuplet[] = [];
  for (const word of words) {
    const wordDots = DOT_WORDS.indexOf(`${word} ` as (typeof DOT_WORDS)[number]);
    const tuplet = tupletNamed(word);
    if (wordDots > 0 && dots === 0) dots = wordDots;
    else if (tuplet) tuplets.push(tuplet);
    else return notANote(text);
  }
  return accepted(noteValue(base, dots, tuplets));
}

/** "dotted-quarter note" and "double dotted half" in the words that are read. */
function plainWords(text: string): string {
  const spoken = text.replace(/[\s-]+notes?$/, '').replace(/\bdotted-/, 'dotted ');
  return spoken.replace(/\b(double|triple)[\s-]+dotted\b/, '$1-dotted');
}

function baseNamed(word: string): NoteBase | undefined {
  return NOTE_BASES.find((name) => name === word) ?? OTHER_WORDS[word];
}

function tupletNamed(word: string): Tuplet | undefined {
  const ratio = RATIO.exec(word);
  if (!ratio) return TUPLET_NAMES.find(([name]) => name === word)?.[1];
  const tuplet = { actual: Number(ratio[1]), normal: Number(ratio[2]) };
  return tuplet.actual > 0 && tuplet.normal > 0 ? tuplet : undefined;
}

/** The letter, the digit and the dots of a short form in another order: "e.7", "3e", ".q". */
const TURNED = /^(?:([bwhqestx])(\.{1,3})(\d)|(\d)([bwhqestx])(\.{0,3})|(\.{1,3})([bwhqestx])(\d?))$/;

/** Letters of a note in the wrong order are told in the right one; null where they are no such letters. */
export function turnedLettersMaybe(text: string): Result<never> | null {
  const match = TURNED.exec(text.trim().toLowerCase());
  if (!match) return null;
  const letter = match[1] ?? match[5] ?? match[8] ?? '';
  const right = `${letter}${match[3] ?? match[4] ?? match[9] ?? ''}${match[2] ?? match[6] ?? match[7] ?? ''}`;
  return refused(`First the letter, then the tuplet's number, then the dots: ${right}`);
}

function notANote(text: string): Result<never> {
  const turned = turnedLettersMaybe(text);
  if (turned) return turned;
  return refused(
    `"${text.trim().slice(0, 40)}" is not a note value: write ${inNoteNames('quarter, dotted eighth, triplet eighth')}, or q, e., e3`,
  );
}

/** "dotted quarter", "triplet eighth", "double-dotted half": as it is saved, and what `parseNoteValue` reads back. */
export function formatNoteValue(value: NoteValue): string {
  return `${beforeBase(value)}${value.base}`;
}

/** The same in the names that are said: "dotted crotchet" for an ensemble that calls it so. It is read back too. */
export function noteWords(value: NoteValue): string {
  return `${beforeBase(value)}${baseWord(value.base)}`;
}

/** One of them in a sentence: "dotted quarter", "minim", but "half note", for a half alone may be half of anything. */
export function noteNoun(value: NoteValue): string {
  const words = noteWords(value);
  return /(half|whole)$/.test(words) ? `${words} note` : words;
}

/** More than one of them: "dotted quarters", "half notes", "minims". */
export function notesWords(value: NoteValue): string {
  return `${noteNoun(value)}s`;
}

function beforeBase(value: NoteValue): string {
  const tuplets = value.tuplets.map((tuplet) => `${tupletName(tuplet)} `).join('');
  return `${tuplets}${DOT_WORDS[Math.min(value.dots, MAX_DOTS)] ?? ''}`;
}

/** A note value by letter, as it is typed: "q.", "e3"; null for what letters cannot say. */
export function noteLettersMaybe(value: NoteValue): string | null {
  const letter = Object.keys(LETTERS).find((known) => LETTERS[known] === value.base) ?? '';
  const [tuplet, ...nested] = value.tuplets;
  const letters = `${letter}${tuplet?.actual ?? ''}${'.'.repeat(value.dots)}`;
  const readBack = parseNoteValue(letters);
  const saysTheSame = readBack.ok && formatNoteValue(readBack.value) === formatNoteValue(value);
  return nested.length === 0 && saysTheSame ? letters : null;
}

/** A length in words: "one dotted quarter", "one half note", or "5/8 of a whole note" where no single note has it. */
export function lengthWords(lengthWholes: Fraction): string {
  const value = noteValueOfLengthMaybe(lengthWholes);
  return value ? `one ${noteNoun(value)}` : ofAWhole(lengthWholes);
}

/** "5/8 of a whole note" */
export function ofAWhole(lengthWholes: Fraction): string {
  return inNoteNames(`${formatFraction(lengthWholes)} of a whole note`);
}

function tupletName(tuplet: Tuplet): string {
  const named = TUPLET_NAMES.find(([, t]) => t.actual === tuplet.actual && t.normal === tuplet.normal);
  return named ? named[0] : `${tuplet.actual}:${tuplet.normal}`;
}
