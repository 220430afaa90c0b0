import { expect, test } from '@jest/globals';
import { pieceOf } from '../test/pieceOf.ts';
import { differencesBetween } from './difference.ts';

const base = () => pieceOf({ meter: '4/4' }, {}, { meter: '5/8' }, { meter: '4/4' }, {});

test.each([
  ['nothing', base(), []],
  [
    'a meter',
    pieceOf({ meter: '4/4' }, {}, { meter: '9/16' }, { meter: '4/4' }, {}),
    ['bar 3 is now 9/16, was 5/8'],
  ],
  [
    'bars added',
    pieceOf({ meter: '4/4' }, {}, {}, {}, { meter: '5/8' }, { meter: '4/4' }, {}),
    ['2 bars added at bar 3'],
  ],
  ['bars deleted', pieceOf({ meter: '4/4' }, {}, { meter: '4/4' }, {}), ['1 bar deleted from bar 3 on']],
  [
    'a mark and a rehearsal mark',
    pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
      {},
      { meter: '5/8' },
      { meter: '4/4', rehearsalMark: 'A' },
      {},
    ),
    ['bar 1: tempo marks changed', 'bar 4: rehearsal mark changed'],
  ],
  [
    'a stretch',
    pieceOf({ meter: '4/4' }, { meter: '3/4' }, {}, {}, {}, {}),
    ['4 bars from bar 2 on replaced by 5 bars'],
  ],
])('%s', (_name, after, says) => {
  expect(differencesBetween(base(), after).map((difference) => difference.says)).toEqual(says);
});
