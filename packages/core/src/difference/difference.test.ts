import { expect, test } from '@jest/globals';
import { pieceOf } from '../test/pieceOf.ts';
import { differencesBetween } from './difference.ts';

const base = () => pieceOf({ meter: '4/4' }, {}, { meter: '5/8' }, { meter: '4/4' }, {});

test.each([
  ['nothing', base(), []],
  [
    'a meter',
    pieceOf({ meter: '4/4' }, {}, { meter: '9/16' }, { meter: '4/4' }, {}),
    ['bar 3 is now 9/16, was 5/8: one sixteenth shorter'],
  ],
  [
    'a meter of the same length',
    pieceOf({ meter: '4/4' }, {}, { meter: '10/16 as 3+3+4' }, { meter: '4/4' }, {}),
    ['bar 3 is now 10/16 as 3+3+4, was 5/8'],
  ],
  [
    'the same meter for three bars',
    pieceOf({ meter: '4/4' }, {}, { meter: '3/4' }, { meter: '4/4' }, { meter: '2/4' }),
    ['bar 3 is now 3/4, was 5/8: one eighth longer', 'bar 5 is now 2/4, was 4/4: one half note shorter'],
  ],
  [
    'bars added',
    pieceOf({ meter: '4/4' }, {}, {}, {}, { meter: '5/8' }, { meter: '4/4' }, {}),
    ['2 bars added at bar 3'],
  ],
  ['bars deleted', pieceOf({ meter: '4/4' }, {}, { meter: '4/4' }, {}), ['1 bar deleted from bar 3 on']],
  [
    'a bar added in one place and one changed in another',
    pieceOf(
      { meter: '4/4' },
      { meter: '2/4' },
      { meter: '4/4' },
      { meter: '5/8' },
      { meter: '4/4' },
      { rhythm: 'w' },
    ),
    ['1 bar added at bar 2', 'bar 6: notes w added'],
  ],
  [
    'marks',
    pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
      { startsRepeat: true },
      { meter: '5/8' },
      { meter: '4/4', rehearsalMark: 'A', sections: [{ section: 'Bells', does: 'enters' }] },
      { note: 'lift' },
    ),
    [
      'bar 1: quarter = 60 added',
      'bar 2: repeat opens added',
      'bar 4: rehearsal mark A added; Bells enters added',
      'bar 5: note "lift" added',
    ],
  ],
  [
    'a stretch',
    pieceOf({ meter: '4/4' }, { meter: '3/4' }, {}, {}, {}, {}),
    [
      'bar 2 is now 3/4, was 4/4: one quarter shorter',
      'bar 3 is now 3/4, was 5/8: one eighth longer',
      'bars 4 to 5 are now 3/4, was 4/4: one quarter shorter',
      '1 bar added at bar 6',
    ],
  ],
])('%s', (_name, after, says) => {
  expect(differencesBetween(base(), after).map((difference) => difference.says)).toEqual(says);
});

test('the head of a piece', () => {
  const after = { ...base(), title: 'Other', key: 'D minor', sections: ['Bells', 'Reeds'] };
  expect(differencesBetween(base(), after).map(({ says }) => says)).toEqual([
    'title is now Other, was Test',
    'key is now D minor',
    'sections is now Bells, Reeds',
  ]);
  expect(differencesBetween(after, base()).map(({ place, was, is }) => ({ place, was, is }))).toContainEqual({
    place: 'key',
    was: 'D minor',
    is: '',
  });
});
