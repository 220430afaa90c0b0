import { expect, test } from '@jest/globals';
import { noteWith, ownMarks } from './ownMarks.ts';

test.each<[string, string[], string[]]>([
  ['in their order', ['flat', 'too loud'], ['flat', 'too loud']],
  ['without what is empty, or only spaces', ['', '  ', 'flat'], ['flat']],
  ['once each, however it is written', ['Flat', 'flat', 'FLAT '], ['Flat']],
  ['not what has a key already', ['Rushed', 'breath'], ['breath']],
  ['commas part marks in a note, so that a mark has none', ['loud, late'], ['loud late']],
  ['one for a key at most', ['a', 'b', 'c', 'd', 'e'], ['a', 'b', 'c', 'd']],
  ['short enough for the strip', ['x'.repeat(60)], ['x'.repeat(24)]],
])('own marks: %s', (_name, typed, marks) => {
  expect(ownMarks(typed)).toEqual(marks);
});

test('a mark is put to a note once; one that is part of another word is another', () => {
  expect(noteWith('', 'late')).toBe('late');
  expect(noteWith('late', 'late')).toBe('late');
  expect(noteWith('translated, slow', 'late')).toBe('translated, slow, late');
});
