import { describe, expect, test } from '@jest/globals';
import { PLAIN_WEIGHTS, planFor, type PieceToPlan } from '@anchorbeat/core';
import {
  dateToShow,
  homeLines,
  homeRequestFor,
  itemLengthened,
  itemMoved,
  itemDragged,
  momentOf,
  NEW_DATE,
  planRequestFor,
  setPercentMaybe,
  temposOf,
  tempoSet,
  weightsOf,
  wishToggled,
} from './season.ts';

const date = (at: string, more: object = {}) => ({ ...NEW_DATE, id: at, at, ...more });
const done = (key: string, minutes: number) => ({ key, title: key, planned: minutes, seconds: 60 * minutes });
const piece = (pieceId: string): PieceToPlan => ({
  pieceId,
  title: pieceId,
  lengthSeconds: 100,
  goalPercent: 100,
  practicePercent: null,
  lastWholeAtMs: null,
  seams: [],
});

const TUESDAY = date('2026-12-01T19:30', { absent: ['Drums'] });
const SUNDAY = date('2026-12-06T19:30');
const CONCERT = date('2026-12-07T20:00', { kind: 'concert', pieceIds: ['b', 'a'] });
const AFTER = date('2026-12-15T19:30');
const parts = {
  dates: [TUESDAY, SUNDAY, CONCERT, AFTER],
  pieces: [piece('a'), piece('b'), piece('c')],
  sections: ['Bells', 'Drums'],
  minutes: 45,
  done: [],
};

describe('how fast a piece is to be', () => {
  const tempo = (pieceId: string, goalPercent: number | null, practicePercent: number | null = null) => ({
    pieceId,
    goalPercent,
    practicePercent,
  });

  test.each<[string, object, object | null, object]>([
    ['as printed, where nobody says otherwise', {}, {}, { goalPercent: 100, practicePercent: null }],
    ['as its concert has it', {}, { goalPercent: 95 }, { goalPercent: 95 }],
    [
      'as its concert has it for this piece',
      {},
      { goalPercent: 95, tempi: [tempo('b', 60), tempo('a', 90)] },
      { goalPercent: 90 },
    ],
    ['as this date has it', { goalPercent: 85 }, { goalPercent: 95 }, { goalPercent: 85 }],
    [
      'as this date has it for this piece, whatever the concert says',
      { goalPercent: 85, tempi: [tempo('a', 80, 70)] },
      { tempi: [tempo('a', 90, 50)] },
      { goalPercent: 80, practicePercent: 70 },
    ],
    ['slower today only', { tempi: [tempo('a', null, 70)] }, {}, { goalPercent: 100, practicePercent: 70 }],
    ['without a concert', { tempi: [tempo('a', 110)] }, null, { goalPercent: 110, practicePercent: null }],
  ])('%s', (_name, onDate, onConcert, wanted) => {
    const concert = onConcert ? { ...CONCERT, ...onConcert } : undefined;
    expect(temposOf('a', { ...TUESDAY, ...onDate }, concert)).toMatchObject(wanted);
  });

  test('and the planner is told', () => {
    const slow = { ...TUESDAY, tempi: [tempo('a', 90, 70)] };
    expect(planRequestFor({ ...parts, date: slow }).pieces).toMatchObject([
      { pieceId: 'b', goalPercent: 100, practicePercent: null },
      { pieceId: 'a', goalPercent: 90, practicePercent: 70 },
    ]);
  });

  test('played through a concert goes as that has it, a rehearsal’s programme as it is practised, else each as it is kept', () => {
    expect(setPercentMaybe('a', CONCERT)).toBeNull();
    expect(setPercentMaybe('a', { ...CONCERT, goalPercent: 95 })).toBe(95);
    expect(setPercentMaybe('a', { ...CONCERT, tempi: [tempo('a', 90)] })).toBe(90);
    expect(setPercentMaybe('b', { ...CONCERT, tempi: [tempo('a', 90)] })).toBeNull();
    expect(setPercentMaybe('a', { ...TUESDAY, tempi: [tempo('a', 90, 70)] })).toBe(70);
    expect(setPercentMaybe('a', { ...TUESDAY, goalPercent: 80 })).toBeNull();
  });

  test('is set and taken back piece by piece', () => {
    const one = tempoSet(null, 'a', { goalPercent: 90 });
    expect(one).toEqual([tempo('a', 90)]);
    expect(tempoSet(tempoSet(one, 'b', { practicePercent: 60 }), 'a', { practicePercent: 70 })).toEqual([
      tempo('b', null, 60),
      tempo('a', 90, 70),
    ]);
    expect(tempoSet(one, 'a', { goalPercent: null })).toEqual([]);
  });
});

describe('what the planner is asked', () => {
  test('of a rehearsal: up to its concert, with the concert’s pieces in order, without who is away', () => {
    expect(planRequestFor({ ...parts, date: TUESDAY })).toMatchObject({
      minutes: 45,
      atMs: momentOf(TUESDAY),
      concertAtMs: momentOf(CONCERT),
      rehearsalsLeft: 2,
      present: ['Bells'],
      pieces: [{ pieceId: 'b' }, { pieceId: 'a' }],
      already: { sinceRestMinutes: 0, rests: 0 },
    });
    expect(planRequestFor({ ...parts, date: AFTER })).toMatchObject({
      concertAtMs: null,
      rehearsalsLeft: 1,
      present: null,
      pieces: [{ pieceId: 'a' }, { pieceId: 'b' }, { pieceId: 'c' }],
    });
  });

  test('in the middle of it: what is done is not done again, and the playing since the last rest counts', () => {
    const request = planRequestFor({
      ...parts,
      date: { ...TUESDAY, wishes: { ...NEW_DATE.wishes, pinned: ['a:1', 'a:9'], order: ['a:9', 'a:1'] } },
      done: [done('warm-up', 3), done('a:1', 20), done('rest 1', 2), done('a:4', 6), done('b:2', 5)],
    });
    expect(request.already).toEqual({ sinceRestMinutes: 11, rests: 1, minutes: 36, wholeMinutes: 0 });
    expect(request.wishes).toMatchObject({
      pinned: ['a:9'],
      order: ['a:9'],
      skipped: ['warm-up', 'warm-up', 'a:1', 'rest 1', 'a:4', 'b:2'],
    });
    const begun = planRequestFor({ ...parts, date: TUESDAY, done: [done('warm-up', 3), done('a:1', 7)] });
    expect(begun.already).toEqual({ sinceRestMinutes: 7, rests: 0, minutes: 10, wholeMinutes: 0 });
  });
});

test('the date that is shown is the rehearsal under way or next, else the last there was', () => {
  const { dates } = parts;
  const at = (moment: string) => dateToShow(dates, Date.parse(moment))?.at;
  expect(at('2026-11-30T12:00')).toBe(TUESDAY.at);
  expect(at('2026-12-01T20:00')).toBe(TUESDAY.at);
  expect(at('2026-12-02T00:00')).toBe(SUNDAY.at);
  expect(at('2027-06-01T00:00')).toBe(AFTER.at);
});

test('wishes: pinned and skipped exclude each other, items move among those shown, none is shorter than a minute', () => {
  const pinned = wishToggled(NEW_DATE.wishes, 'pinned', 'x');
  expect(wishToggled(pinned, 'skipped', 'x')).toMatchObject({ pinned: [], skipped: ['x'] });
  expect(wishToggled(pinned, 'pinned', 'x')).toMatchObject({ pinned: [] });
  expect(itemMoved(NEW_DATE.wishes, ['a', 'b', 'c'], 'c', -1).order).toEqual(['a', 'c', 'b']);
  expect(itemMoved(NEW_DATE.wishes, ['a', 'b', 'c'], 'a', -1)).toBe(NEW_DATE.wishes);
  const longer = itemLengthened(itemLengthened(NEW_DATE.wishes, 'a', 5), 'a', 0);
  expect(longer.minutes).toEqual([{ key: 'a', minutes: 1 }]);
});

describe('ten minutes at home', () => {
  const seam = (
    barIndex: number,
    score: number,
    sections: readonly string[],
  ): PieceToPlan['seams'][number] => ({
    barIndex,
    name: `into bar ${barIndex}`,
    score,
    sections,
    bestPercent: null,
    spacing: { reached: 0, lastAtMs: null, intervalDays: 0 },
  });
  const full: PieceToPlan = {
    ...piece('b'),
    seams: [
      seam(5, 40, ['Bells']),
      seam(11, 80, ['Drums']),
      seam(20, 60, []),
      seam(30, 20, ['Bells', 'Drums']),
    ],
  };

  test('for one section: its own hardest places, nothing else, never a minute over, whatever the rehearsal wants', () => {
    const wishes = { pinned: ['b:11'], skipped: ['b:5'], order: [], minutes: [] };
    const request = homeRequestFor(
      { ...parts, pieces: [full], date: { ...TUESDAY, wishes }, minutes: 10 },
      'Bells',
    );
    const { items } = planFor(request);
    expect(items.every(({ kind }) => kind === 'place')).toBe(true);
    expect(items.flatMap(({ bars }) => bars)).not.toContain(11);
    expect(items.flatMap(({ bars }) => bars)).toEqual(expect.arrayContaining([5, 20]));
    expect(items.reduce((sum, { minutes }) => sum + minutes, 0)).toBeLessThanOrEqual(10);
    expect(homeLines({ items })[0]).toMatch(/^\d min · .*, from \d+ %: \w/);
  });

  test('where nothing of the programme is a section’s, there is nothing to do', () => {
    const none = { ...full, seams: [seam(11, 80, ['Drums'])] };
    const request = homeRequestFor({ ...parts, pieces: [none], date: TUESDAY, minutes: 10 }, 'Bells');
    expect(homeLines(planFor(request))).toEqual([]);
  });
});

test('weights hold from their date on, until another has its own', () => {
  const long = { ...PLAIN_WEIGHTS, mostMinutesAPlace: 12 };
  const short = { ...PLAIN_WEIGHTS, mostMinutesAPlace: 2 };
  const dates = [{ ...TUESDAY, weights: long }, SUNDAY, { ...AFTER, weights: short }];
  expect(weightsOf(dates[0]!, dates)).toBe(long);
  expect(weightsOf(SUNDAY, dates)).toBe(long);
  expect(weightsOf(dates[2]!, dates)).toBe(short);
  expect(weightsOf(date('2026-11-01T19:30'), dates)).toBe(PLAIN_WEIGHTS);
  expect(planRequestFor({ ...parts, dates, date: SUNDAY }).weights).toBe(long);
});

test('a place is dragged to any other, and no farther than the first and the last of them', () => {
  const { wishes } = NEW_DATE;
  const items = [
    { key: 'warm-up', kind: 'warm-up' },
    ...['a', 'b', 'c', 'd'].map((key) => ({ key, kind: 'place' as const })),
    { key: 'rest 1', kind: 'rest' },
  ] as const;
  expect(itemDragged(wishes, items, 4, 2).order).toEqual(['a', 'd', 'b', 'c']);
  expect(itemDragged(wishes, items, 1, 5).order).toEqual(['b', 'c', 'd', 'a']);
  expect(itemDragged(wishes, items, 3, 0).order).toEqual(['c', 'a', 'b', 'd']);
  expect(itemDragged(wishes, items, 2, 2)).toBe(wishes);
  expect(itemDragged(wishes, items, 2, 40)).toBe(wishes);
  expect(itemDragged(wishes, items, 0, 3)).toBe(wishes);
});
