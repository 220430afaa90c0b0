import { describe, expect, test } from '@jest/globals';
import type { SaveDateRequest } from '@anchorbeat/contract';
import { mergedDate } from './mergeDate.ts';

const DATE: SaveDateRequest = {
  kind: 'rehearsal',
  title: '',
  at: '2031-03-04T19:30',
  minutes: 90,
  absent: ['Drums'],
  pieceIds: ['ebb', 'rope', 'tar'],
  goalPercent: 100,
  wishes: { pinned: ['a'], skipped: [], order: ['a', 'b', 'c'], minutes: [{ key: 'a', minutes: 4 }] },
  done: [{ key: 'a', title: 'A', planned: 4, seconds: 200 }],
  note: '',
};
const done = (key: string, seconds = 60) => ({ key, title: key, planned: 5, seconds });

describe('what two change of one date', () => {
  test.each<[string, Partial<SaveDateRequest>, Partial<SaveDateRequest>, Partial<SaveDateRequest>]>([
    ['in different fields is in it', { note: 'mutes' }, { minutes: 120 }, { note: 'mutes', minutes: 120 }],
    ['in one field is as it was said last', { minutes: 60 }, { minutes: 120 }, { minutes: 60 }],
    [
      'by taking out is out, by putting in is in',
      { absent: ['Reeds'] },
      { absent: ['Drums', 'Handbells'] },
      { absent: ['Handbells', 'Reeds'] },
    ],
    [
      'in the order of a programme that another adds to is in that order',
      { pieceIds: ['ebb', 'rope', 'tar', 'lamp'] },
      { pieceIds: ['tar', 'ebb', 'rope'] },
      { pieceIds: ['tar', 'ebb', 'rope', 'lamp'] },
    ],
    [
      'of what was done is all in it',
      { done: [...DATE.done, done('b')] },
      { done: [done('a', 300), done('c')] },
      { done: [done('a', 300), done('c'), done('b')] },
    ],
    [
      'of the plan’s wishes is each in it',
      { wishes: { ...DATE.wishes, pinned: [], minutes: [{ key: 'a', minutes: 9 }] } },
      {
        wishes: {
          ...DATE.wishes,
          skipped: ['c'],
          minutes: [...DATE.wishes.minutes, { key: 'b', minutes: 2 }],
        },
      },
      {
        wishes: {
          ...DATE.wishes,
          pinned: [],
          skipped: ['c'],
          minutes: [
            { key: 'a', minutes: 9 },
            { key: 'b', minutes: 2 },
          ],
        },
      },
    ],
    [
      'that was not said before is there, and gone where it was taken back',
      { tempi: [{ pieceId: 'ebb', goalPercent: 90 }] },
      { tempi: [{ pieceId: 'tar', practicePercent: 70 }], pauseSeconds: 20 },
      {
        tempi: [
          { pieceId: 'tar', practicePercent: 70 },
          { pieceId: 'ebb', goalPercent: 90 },
        ],
        pauseSeconds: 20,
      },
    ],
  ])('%s', (_says, mine, theirs, both) => {
    expect(mergedDate(DATE, { ...DATE, ...mine }, { ...DATE, ...theirs })).toEqual({ ...DATE, ...both });
  });

  test('is what one alone changed where the other changed nothing, also by taking a field back', () => {
    const changed = { ...DATE, pauseSeconds: 20, absent: [], note: 'mutes' };
    expect(mergedDate(DATE, changed, DATE)).toEqual(changed);
    expect(mergedDate(DATE, DATE, changed)).toEqual(changed);
    expect(mergedDate(changed, { ...changed, pauseSeconds: null }, changed)).toEqual({
      ...DATE,
      absent: [],
      note: 'mutes',
    });
  });
});
