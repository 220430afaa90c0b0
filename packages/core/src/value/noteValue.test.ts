import { expect, test } from '@jest/globals';
import { expectValue } from '../problem/problem.ts';
import { noteValueLength, noteValueOfLengthMaybe, NOTE_BASES, noteValue } from './noteValue.ts';
import { formatNoteValue, parseNoteValue } from './text.ts';

test.each([
  ['quarter', 'q', 1, 4],
  ['dotted quarter', 'q.', 3, 8],
  ['triplet eighth', 'e3', 1, 12],
  ['quintuplet sixteenth', 's5', 1, 20],
  ['double-dotted half', 'h..', 7, 8],
  ['triple-dotted quarter', 'q...', 15, 32],
  ['breve', 'b', 2, 1],
  ['64th', 'x', 1, 64],
  ['7:5 sixteenth', null, 5, 112],
  ['duplet eighth', 'e2', 3, 16],
  ['triplet quintuplet sixteenth', null, 1, 30],
])('%s lasts %s', (words, letters, n, d) => {
  const value = expectValue(parseNoteValue(words));
  expect(noteValueLength(value)).toEqual({ n, d });
  expect(formatNoteValue(value)).toBe(words);
  if (letters) expect(parseNoteValue(letters)).toEqual({ ok: true, value });
});

test.each([
  ['crotchet', 'quarter'],
  ['dotted crotchet', 'dotted quarter'],
  ['triplet quaver', 'triplet eighth'],
  ['hemidemisemiquaver', '64th'],
  ['minim', 'half'],
  ['semibreve', 'whole'],
  ['dotted-quarter note', 'dotted quarter'],
  ['Double dotted half-note', 'double-dotted half'],
  ['eighth notes', 'eighth'],
  ['♩.', 'dotted quarter'],
  ['♪', 'eighth'],
  ['♩ ..', 'double-dotted quarter'],
  ['\u{1D15E}', 'half'],
  ['\u{1D157}\u{1D165}\u{1D16D}', 'dotted half'],
  ['\uECA5\uECB7', 'dotted quarter'],
])('%s is understood as %s', (said, words) => {
  expect(formatNoteValue(expectValue(parseNoteValue(said)))).toBe(words);
});

test.each([
  '',
  'crotchet!',
  'q....',
  'e1',
  'dotted',
  'dotted dotted quarter',
  '0:3 eighth',
  'quarter quarter',
])('"%s" is refused with an example', (text) => {
  const result = parseNoteValue(text);
  expect(result.ok || result.problem.message).toContain('write quarter');
});

test('a length finds its note, or none', () => {
  for (const base of NOTE_BASES) {
    for (let dots = 0; dots <= 3; dots++) {
      const value = noteValue(base, dots);
      expect(noteValueOfLengthMaybe(noteValueLength(value))).toEqual(value);
    }
  }
  expect(noteValueOfLengthMaybe({ n: 5, d: 8 })).toBeNull();
  expect(noteValueOfLengthMaybe({ n: 1, d: 12 })).toBeNull();
});
