import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { BarDocument } from '../document/document.ts';
import { barsMoved, barsMovedToLast, barTexts } from './barsMoved.ts';

const plain = (count: number): readonly BarDocument[] => Array.from({ length: count }, () => ({}));
const PIECE: readonly BarDocument[] = [
  { meter: '4/4' },
  ...plain(3),
  { meter: '7/8', rehearsalMark: 'A' },
  ...plain(2),
  { meter: '4/4', tempo: [{ tempo: 'quarter = 80' }] },
  {},
];
const changed = (at: number, changes: BarDocument) =>
  PIECE.map((bar, index) => (index === at ? { ...bar, ...changes } : bar));

test.each<[string, readonly BarDocument[], readonly (number | null)[]]>([
  ['nothing', PIECE, [0, 1, 2, 3, 4, 5, 6, 7, 8]],
  ['two bars put in', PIECE.toSpliced(2, 0, {}, {}), [0, 1, 2, 3, 6, 7, 8, 9, 10]],
  ['a bar taken out', PIECE.toSpliced(5, 1), [0, 1, 2, 3, 4, 5, null, 6, 7]],
  ['another meter from the start', changed(0, { meter: '3/4' }), [0, 1, 2, 3, 4, 5, 6, 7, 8]],
  [
    'another meter from the start, and a bar put in',
    changed(0, { meter: '3/4' }).toSpliced(5, 0, { note: 'new' }),
    [0, 1, 2, 3, 4, 6, 7, 8, 9],
  ],
  [
    'a bar of another meter put in',
    changed(2, {}).toSpliced(2, 1, { meter: '3/4' }, { meter: '4/4' }),
    [0, 1, 3, 4, 5, 6, 7, 8, 9],
  ],
  ['the end cut off', PIECE.slice(0, 6), [0, 1, 2, 3, 4, 5, null, null, null]],
  ['everything', [{ meter: '5/4' }], [0, null, null, null, null, null, null, null, null]],
])('%s changed: every bar is found again', (_, after, expected) => {
  expect(barsMoved(barTexts(PIECE), barTexts(after))).toEqual(expected);
});

test('through several states, also where a bar was gone for a while', () => {
  const texts = (own: string) => barTexts([...own].map((note) => ({ note })));
  const states = ['abcd', 'xabcd', 'xacd', 'xcd', 'xabcd'].map(texts);
  expect(barsMovedToLast(states)).toEqual([
    [1, 2, 3, 4],
    [0, 1, 2, 3, 4],
    [0, 1, 3, 4],
    [0, 3, 4],
    [0, 1, 2, 3, 4],
  ]);
  // What was changed on the way is the bar it was.
  expect(barsMovedToLast(['abc', 'axc', 'naxc'].map(texts))[0]).toEqual([1, 2, 3]);
  expect(barsMovedToLast(['abc', 'ac', 'nac'].map(texts))[0]).toEqual([1, null, 2]);
  // A bar like one that went, but elsewhere, is another.
  expect(barsMovedToLast(['abcd', 'acd', 'bacd'].map(texts))[0]).toEqual([1, null, 2, 3]);
  expect(barsMovedToLast([])).toEqual([]);
});

test('bars that can be told apart are found again, whatever came and went between them', () => {
  const step = fc.record({
    at: fc.nat(200),
    does: fc.constantFrom<'in' | 'out' | 'mark'>('in', 'out', 'mark'),
  });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 60 }), fc.array(step, { maxLength: 12 }), (count, steps) => {
      const bar = (own: number, more: BarDocument = {}) => ({ own, document: { note: `${own}`, ...more } });
      let after = Array.from({ length: count }, (_, own) => bar(own));
      const before = after.map(({ document }) => document);
      const touched = new Set<number>();
      const states = [barTexts(before)];
      for (const [index, { at, does }] of steps.entries()) {
        const place = at % (after.length + 1);
        const { own } = after[place] ?? { own: -1 };
        if (does === 'in') after = after.toSpliced(place, 0, bar(1000 + index));
        else
          after = after.toSpliced(
            place,
            1,
            ...(does === 'out' || own < 0 ? [] : [bar(own, { rehearsalMark: 'A' })]),
          );
        if (does === 'mark') touched.add(own);
        states.push(barTexts(after.map(({ document }) => document)));
      }
      const indexOf = (bar: number) => after.findIndex(({ own }) => own === bar);
      // Step by step nothing is a guess.
      const stepByStep = barsMovedToLast(states)[0];
      expect(stepByStep).toEqual(before.map((_, was) => (indexOf(was) < 0 ? null : indexOf(was))));
      const moved = barsMoved(barTexts(before), barTexts(after.map(({ document }) => document)));
      const there = moved.filter((is) => is !== null);
      expect(there).toEqual([...new Set(there)].sort((a, b) => a - b));
      for (const [was, is] of moved.entries()) {
        const isNow = indexOf(was);
        // What was changed beside what came is a guess; what was taken out may be taken for what stands there now.
        if (isNow >= 0 && !touched.has(was)) expect(is).toBe(isNow);
      }
    }),
    { numRuns: 300, seed: 11 },
  );
});
