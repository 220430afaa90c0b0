import { expect, test } from '@jest/globals';
import type { BarDocument } from '../document/document.ts';
import { routeOf } from '../route/route.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { openRepeats, wayOut } from './openRepeats.ts';

const open = (...bars: readonly BarDocument[]) => {
  const piece = pieceOf({ meter: '4/4', ...bars[0] }, ...bars.slice(1));
  return openRepeats(piece, routeOf(piece)).map(({ round, last }) => [
    round.from,
    round.to,
    last.from,
    last.to,
  ]);
};

test.each<[string, readonly BarDocument[], number[][]]>([
  ['none', [{ startsRepeat: true }, { endsRepeat: 2 }], []],
  [
    'without endings the only pass is the round',
    [{}, { startsRepeat: true }, { endsRepeat: 'until cued' }, {}],
    [[1, 3, 1, 3]],
  ],
  [
    'with endings the last pass leads out',
    [{ startsRepeat: true }, { ending: '1', endsRepeat: 'until cued' }, { ending: '2' }, {}],
    [[0, 2, 2, 4]],
  ],
  [
    'two of them, one after the other',
    [{ startsRepeat: true, endsRepeat: 'until cued' }, {}, { startsRepeat: true, endsRepeat: 'until cued' }],
    [
      [0, 1, 0, 1],
      [2, 3, 2, 3],
    ],
  ],
  [
    'one that is passed again after a jump goes round only the first time',
    [{ startsRepeat: true }, { endsRepeat: 'until cued' }, { jump: 'D.C.' }, {}],
    [[0, 2, 0, 2]],
  ],
  [
    'one in a coda goes round, however it is come to',
    [{ toCoda: true }, { jump: 'D.C.' }, { coda: true, startsRepeat: true }, { endsRepeat: 'until cued' }],
    [[3, 5, 3, 5]],
  ],
  [
    'one within a repeat goes round each time',
    [{ startsRepeat: true }, { startsRepeat: true, endsRepeat: 'until cued' }, { endsRepeat: 2 }],
    [
      [1, 2, 1, 2],
      [4, 5, 4, 5],
    ],
  ],
])('%s', (_name, bars, expected) => {
  expect(open(...bars)).toEqual(expected);
});

test('the way out of a round is the same written bar of the last pass', () => {
  const piece = pieceOf(
    { meter: '4/4', startsRepeat: true },
    {},
    { ending: '1', endsRepeat: 'until cued' },
    { ending: '2' },
  );
  const route = routeOf(piece);
  const [repeat] = openRepeats(piece, route);
  expect([0, 1, 2].map((performed) => wayOut(repeat!, route, performed))).toEqual([3, 4, 3]);
});
