import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { pieceOf } from '../test/pieceOf.ts';
import type { BarDocument } from '../document/document.ts';
import type { SectionMark } from '../piece/piece.ts';
import { entryWords, nextEntryMaybe, restRunMaybe, restRuns, sectionSpans } from './sections.ts';

const bells = (does: SectionMark['does']) => ({ sections: [{ section: 'Bells', does }] });

describe('when a section plays', () => {
  test.each<[string, BarDocument[], string]>([
    ['nothing said', [{ meter: '4/4' }, bells('cue'), {}], 'plays 0-3'],
    ['an entry later on', [{ meter: '4/4' }, {}, bells('enters'), {}], 'rests 0-2, plays 2-4'],
    ['an entry at the start', [{ meter: '4/4', ...bells('enters') }, {}], 'plays 0-2'],
    [
      'a rest in the middle',
      [{ meter: '4/4' }, bells('rests'), {}, bells('enters'), {}],
      'plays 0-1, rests 1-3, plays 3-5',
    ],
    ['said twice', [{ meter: '4/4' }, bells('rests'), bells('rests'), {}], 'plays 0-1, rests 1-4'],
    ['rests from the start', [{ meter: '4/4', ...bells('rests') }, bells('enters')], 'rests 0-1, plays 1-2'],
  ])('%s', (_name, bars, expected) => {
    const spans = sectionSpans(pieceOf(...bars)).filter(({ section }) => section === 'Bells');
    expect(spans.map(({ does, from, to }) => `${does} ${from}-${to}`).join(', ')).toBe(expected);
  });
});

test('who comes in next is found in performed order, through a repeat', () => {
  const piece = pieceOf({ meter: '4/4', startsRepeat: true }, { ...bells('enters'), endsRepeat: 2 }, {});
  const proof = proofOf(piece);
  const nextFrom = (performed: number) => nextEntryMaybe(proof, performed - 1)?.performed;
  expect([0, 1, 2, 3, 4].map(nextFrom)).toEqual([1, 1, 3, 3, undefined]);
});

test('entries in words', () => {
  const marks: SectionMark[] = [
    { section: 'Bells', does: 'enters' },
    { section: 'Reeds', does: 'enters' },
    { section: 'Drums', does: 'cue', says: 'after the bell' },
    { section: 'Horn', does: 'enters', says: 'from nothing' },
  ];
  expect(entryWords(marks)).toBe('Bells and Reeds enter; Drums: after the bell; Horn enters: from nothing');
});

test('a long rest is counted as one, and begins anew where a part would print it so', () => {
  const rest = { rhythm: 'rw' };
  const piece = pieceOf(
    { meter: '4/4' },
    rest,
    rest,
    rest,
    { ...rest, rehearsalMark: 'B' },
    rest,
    {},
    rest,
    { meter: '3/4', rhythm: 'rh.' },
    { rhythm: 'rh.', endsRepeat: 2 },
    { rhythm: 'rh.' },
    { rhythm: 'rh.' },
  );
  expect(restRuns(piece)).toEqual([
    { from: 1, count: 3 },
    { from: 4, count: 2 },
    { from: 8, count: 2 },
    { from: 10, count: 2 },
  ]);
  expect([0, 3, 4, 7].map((bar) => restRunMaybe(piece, bar)?.from ?? null)).toEqual([null, 1, 4, null]);
});
