import { afterEach, expect, test } from '@jest/globals';
import { compilePiece } from '../compile/compile.ts';
import { writePiece } from '../document/writePiece.ts';
import type { Piece } from '../piece/piece.ts';
import { expectValue } from '../problem/problem.ts';
import { readShorthand } from '../shorthand/readShorthand.ts';
import { writeShorthand } from '../shorthand/writeShorthand.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { richPiece } from '../test/richPiece.ts';
import { inNoteNames, sayNotesIn } from './names.ts';
import { NOTE_BASES, noteValue } from './noteValue.ts';
import { formatNoteValue, notesWords, noteWords, parseNoteValue } from './text.ts';

afterEach(() => sayNotesIn('quarter'));

test('a note in the crotchet family is read back as the same note, and saved in the other family', () => {
  sayNotesIn('crotchet');
  for (const base of NOTE_BASES) {
    for (const dots of [0, 1, 2]) {
      const note = noteValue(base, dots, dots === 0 ? [{ actual: 3, normal: 2 }] : []);
      expect(expectValue(parseNoteValue(noteWords(note)))).toEqual(note);
      expect(formatNoteValue(note)).toContain(base);
    }
  }
});

test.each([
  ['quarter', 'quarters', 'crotchets'],
  ['triplet eighth', 'triplet eighths', 'triplet quavers'],
  ['dotted half', 'dotted half notes', 'dotted minims'],
  ['whole', 'whole notes', 'semibreves'],
  ['32nd', '32nds', 'demisemiquavers'],
])('more than one %s are %s, or %s', (note, ours, theirs) => {
  const value = expectValue(parseNoteValue(note));
  expect(notesWords(value)).toBe(ours);
  sayNotesIn('crotchet');
  expect(notesWords(value)).toBe(theirs);
});

test.each([
  ['8 for eighths', '8 for quavers'],
  ['Sixteenth syllables', 'Semiquaver syllables'],
  ['5/8 of a whole note', '5/8 of a semibreve'],
  ['half = 60', 'minim = 60'],
  ['half = dotted half', 'minim = dotted minim'],
  ['even per beat to half = 60', 'even per beat to minim = 60'],
  ['even per beat to half as fast', 'even per beat to half as fast'],
  ['tempo triplet half = 5:4 quarter', 'tempo triplet minim = 5:4 crotchet'],
  ['two half notes', 'two minims'],
  ['the whole bar, half the tempo', 'the whole bar, half the tempo'],
])('"%s" is said "%s"', (ours, theirs) => {
  expect(inNoteNames(ours)).toBe(ours);
  sayNotesIn('crotchet');
  expect(inNoteNames(ours)).toBe(theirs);
});

function read(text: string): Piece {
  const { piece, problems } = readShorthand(text, pieceOf({ meter: '4/4' }));
  expect(problems).toEqual([]);
  return piece as Piece;
}

const WORDS = `title: A quarter to half past

mark A
tempo "Half time", half = 60
4 bars of 4/4
tempo eighth = sixteenth
hold 2 beats, on 3, note half
1 bar of 15/16
tempo ramp even per beat to half as fast
2 bars of 4/4
tempo quarter = 97
2 bars
`;

test('a whole piece is told in crotchets, its title and terms as they were written, and read back the same', () => {
  const piece = read(WORDS);
  sayNotesIn('crotchet');
  const told = writeShorthand(piece);
  expect(told).toContain('title: A quarter to half past');
  expect(told).toContain('tempo "Half time", minim = 60');
  expect(told).toContain('tempo quaver = semiquaver');
  expect(told).toContain('note minim');
  expect(told).toContain('half as fast');
  expect(told).not.toMatch(/eighth|sixteenth|= quarter|quarter =/);
  const again = read(told);
  expect(writePiece(again)).toEqual(writePiece(piece));
  expect(JSON.stringify(writePiece(piece))).not.toMatch(/crotchet|quaver|minim/);
});

test('pieces of every kind come back the same out of their words in crotchets', () => {
  sayNotesIn('crotchet');
  for (let seed = 1; seed <= 60; seed++) {
    const piece = richPiece(seed, 30);
    const { piece: again, problems } = readShorthand(writeShorthand(piece), piece);
    expect([seed, problems]).toEqual([seed, []]);
    expect(writePiece(again as Piece)).toEqual(writePiece(piece));
  }
});

test('what checks and corrections say is in the same names', () => {
  sayNotesIn('crotchet');
  const piece = read(WORDS);
  const { findings } = compilePiece(piece);
  const says = findings.map(({ says: words }) => words).join('\n');
  expect(says).toMatch(/crotchet|quaver|minim/);
  expect(says).not.toMatch(/\b(quarter|eighth|sixteenth)s?\b/);
});
