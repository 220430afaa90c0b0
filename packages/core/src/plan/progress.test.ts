import { describe, expect, test } from '@jest/globals';
import type { RunResult } from '../drill/record.ts';
import { lastChanges, progressOf, readyAt } from './progress.ts';

const run = (
  day: number,
  mark: RunResult['mark'],
  percent = 100,
  hour = 19,
): RunResult & { lengthSeconds: number } => ({
  place: { kind: 'seam', barIndex: 1, label: '2', bars: 0 },
  percent,
  goalPercent: 100,
  mark,
  startedAt: new Date(Date.UTC(2026, 10, day, hour)).toISOString(),
  lengthSeconds: 30,
});
/** By a clock two hours ahead: what is run at eleven in the evening belongs to the next day. */
const dayOf = (startedAt: string) =>
  new Date(Date.parse(startedAt) + 2 * 3_600_000).toISOString().slice(0, 10);
const seams = (...all: (readonly RunResult[])[]) =>
  all.map((runs, index) => ({ title: `seam ${index + 1}`, runs }));

describe('progress', () => {
  test('day by day: minutes of running, the share of ready seams, the tempo reached', () => {
    const first = [run(3, 'again', 60), run(3, 'good', 60), run(10, 'good')];
    const second = [run(10, 'again')];
    const days = progressOf(seams(first, second), [...first, ...second], dayOf);
    expect(days).toEqual([
      { day: '2026-11-03', minutes: 1, readyShare: 0, tempoShare: 0.3 },
      { day: '2026-11-10', minutes: 1, readyShare: 0.5, tempoShare: 0.5 },
    ]);
    expect(progressOf([], [], dayOf)).toEqual([]);
  });

  test('days are those of the place, and what was ready once is not for ever', () => {
    const late = [run(3, 'good', 100, 23)];
    expect(progressOf(seams(late), late, dayOf).map(({ day }) => day)).toEqual(['2026-11-04']);
    expect(readyAt(late, Date.parse(late[0]!.startedAt))).toBe(1);
    // Half is gone in five days.
    expect(readyAt(late, Date.parse(late[0]!.startedAt) + 5 * 86_400_000)).toBeCloseTo(0.5, 9);
    expect(readyAt(late, Date.parse(late[0]!.startedAt) - 1)).toBe(0);
  });
});

describe('what the last day changed', () => {
  test.each<[string, readonly RunResult[], object | null]>([
    [
      'is ready now',
      [run(3, 'good', 70), run(10, 'good', 100)],
      { change: 'ready', fromPercent: 70, toPercent: 100 },
    ],
    [
      'is faster',
      [run(3, 'good', 50), run(10, 'good', 70)],
      { change: 'faster', fromPercent: 50, toPercent: 70 },
    ],
    [
      'fell back',
      [run(3, 'good'), run(10, 'again', 80)],
      { change: 'fell back', fromPercent: 100, toPercent: 100 },
    ],
    ['was begun', [run(10, 'again', 60)], { change: 'begun', fromPercent: null, toPercent: null }],
    ['is as it was', [run(3, 'good', 70), run(10, 'good', 72)], null],
    ['was not run that day', [run(3, 'good', 70)], null],
    ['was only spoken', [run(3, 'good', 70), { ...run(10, 'good'), way: 'speak' }], null],
  ])('%s', (_name, runs, expected) => {
    // Another seam makes the tenth the last day, whatever this one has.
    const found = lastChanges(seams(runs, [run(10, 'again')]), dayOf).filter(
      ({ title }) => title === 'seam 1',
    );
    expect(found).toEqual(expected ? [{ title: 'seam 1', ...expected }] : []);
  });

  test('what is ready comes first, what was only begun last', () => {
    const kinds = lastChanges(
      seams([run(10, 'again')], [run(3, 'good', 40), run(10, 'good', 60)], [run(10, 'good')]),
      dayOf,
    ).map(({ change }) => change);
    expect(kinds).toEqual(['ready', 'faster', 'begun']);
    expect(lastChanges([], dayOf)).toEqual([]);
  });
});
