import type { NoteBase, NoteValue } from './noteValue.ts';

/** In whose English notes are named: the quarter's family, or the crotchet's. */
export const NOTE_NAMES = ['quarter', 'crotchet'] as const;
export type NoteNames = (typeof NOTE_NAMES)[number];

const CROTCHET_FAMILY: Readonly<Record<NoteBase, string>> = {
  breve: 'breve',
  whole: 'semibreve',
  half: 'minim',
  quarter: 'crotchet',
  eighth: 'quaver',
  sixteenth: 'semiquaver',
  '32nd': 'demisemiquaver',
  '64th': 'hemidemisemiquaver',
};

let said: NoteNames = 'quarter';

/**
 * From here on words that are shown and spoken name notes so, as a language would be chosen: one a page, and one a worker.
 * What is saved and written into files keeps the quarter's family, and both are always read.
 */
export function sayNotesIn(names: NoteNames): void {
  said = names;
}

export function noteNames(): NoteNames {
  return said;
}

/** The English names of the notes themselves, as words are typed. */
export const CROTCHET_WORDS: Readonly<Record<string, NoteBase>> = Object.fromEntries(
  Object.entries(CROTCHET_FAMILY).map(([base, word]) => [word, base as NoteBase]),
);

export function baseWord(base: NoteValue['base']): string {
  return said === 'quarter' ? base : CROTCHET_FAMILY[base];
}

/** "half" and "whole" are other words too: they are notes only in a place where only a note can stand. */
const NAMED_NOTE = new RegExp(
  [
    String.raw`\b(quarter|eighth|sixteenth|32nd|64th)(s?)\b`,
    String.raw`\b(half|whole)(?: note(s?)\b|(?= =))`,
    String.raw`(= |dotted |plet |\d:\d+ |\bnote )(half|whole)\b(?! as fast)`,
  ].join('|'),
  'gi',
);

/**
 * Our own words, written with the quarter's family, in the names that are said: "8 for eighths" becomes "8 for quavers", and
 * "half = 60" "minim = 60". Only for words of the program and for tempi, never for what people have written.
 */
export function inNoteNames(words: string): string {
  if (said === 'quarter') return words;
  return words.replace(NAMED_NOTE, (_, ...groups: ReadonlyArray<string | undefined>) => {
    const [plain, plains, long, longs, before, after] = groups;
    const base = plain ?? long ?? after ?? '';
    const name = CROTCHET_FAMILY[base.toLowerCase() as NoteBase];
    const cased = /^[A-Z]/.test(base) ? name.charAt(0).toUpperCase() + name.slice(1) : name;
    return `${before ?? ''}${cased}${plains ?? longs ?? ''}`;
  });
}
