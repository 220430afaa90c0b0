import { describe, expect, test } from '@jest/globals';
import { randomPiece } from '../test/randomPiece.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { writePiece } from './writePiece.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { readPiece } from './readPiece.ts';

const head = { format: 'anchorbeat-piece', version: 1, title: 'T' };
const problemsOf = (document: unknown) => {
  const reading = readPiece(document);
  return reading.ok ? [] : reading.problems.map(({ field, message, bar }) => [field, message, bar]);
};

test.each(Array.from({ length: 25 }, (_, seed) => seed))(
  'random piece %i reads back as it was written',
  (seed) => {
    const piece = randomPiece(seed, 40);
    const document: unknown = JSON.parse(JSON.stringify(writePiece(piece)));
    expect(readPiece(document)).toEqual({ ok: true, piece });
  },
);

describe('what is wrong is named with its field, its value and its bar', () => {
  test.each([
    ['meter 7/0', { meter: '7/0' }, 'bars[1].meter', 'no unit'],
    ['a grouping that does not sum', { meter: '7/8 as 2+2' }, 'bars[1].meter', '3 too few'],
    ['a tempo of -3', { tempo: [{ tempo: 'quarter = -3' }] }, 'bars[1].tempo[0].tempo', 'cannot be played'],
    [
      'a mark outside its bar',
      { tempo: [{ at: '5/4', tempo: 'quarter = 60' }] },
      'bars[1].tempo[0].at',
      'outside its bar',
    ],
    ['two marks at a place', { tempo: [{ term: 'a' }, { term: 'b' }] }, 'bars[1].tempo[1].at', 'in order'],
    ['a pickup longer than its bar', { pickup: '9/8' }, 'bars[1].pickup', 'shorter than'],
    ['a pickup that is also cut', { pickup: '1/8', cutTo: '1/8' }, 'bars[1].cutTo', 'not both'],
    ['a field nobody knows', { metre: '4/4' }, 'bars[1].metre', 'not a field'],
    ['a number for a text', { meter: 44 }, 'bars[1].meter', 'short text'],
    ['a list for a bar', [], 'bars[1]', 'named fields'],
  ])('%s', (_name, bar, field, message) => {
    const [first] = problemsOf({ ...head, bars: [{ meter: '4/4', label: '11' }, bar] });
    expect(first?.[0]).toBe(field);
    expect(first?.[1]).toContain(message);
    expect(first?.[2]).toBe('12');
  });

  test.each([
    [
      '20,000 bars',
      { ...head, bars: Array.from({ length: 20_000 }, () => ({ meter: '4/4' })) },
      'at most 10,000 bars',
    ],
    ['no bars', { ...head, bars: [] }, 'at least one bar'],
    ['no title', { ...head, title: ' ', bars: [{ meter: '4/4' }] }, 'a title'],
    ['another format', { bars: [] }, 'not a piece'],
    ['a later version', { ...head, version: 9, bars: [] }, 'version 9'],
    ['a first bar without meter', { ...head, bars: [{}] }, 'needs a meter'],
    ['nothing', null, 'named fields'],
  ])('%s', (_name, document, message) => {
    expect(problemsOf(document)[0]?.[1]).toContain(message);
  });

  test('everything wrong at once, but never more than fifty lines', () => {
    const bars = Array.from({ length: 80 }, () => ({ meter: '1/0' }));
    expect(problemsOf({ ...head, bars })).toHaveLength(50);
  });
});

test('labels count on, restart, skip and carry letters; a pickup has none', () => {
  const piece = pieceOf(
    { meter: '3/4', pickup: '1/4' },
    {},
    {},
    { label: '2a' },
    {},
    { label: null },
    { label: '101' },
    {},
  );
  const labels = barLabels(piece);
  expect(labels).toEqual([null, '1', '2', '2a', '3', null, '101', '102']);
  expect([0, 1, 5].map((index) => barName(labels, index))).toEqual([
    'the pickup',
    'bar 1',
    'the bar after 3',
  ]);
});
