import { expect, test } from '@jest/globals';
import { compilePiece } from '../compile/compile.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { seamPlace } from './place.ts';
import { isRestDue, pieceReadinessMaybe, readinessOf, seamRecord, type RunResult } from './record.ts';

const place = { kind: 'seam' as const, barIndex: 1, label: '2', bars: 0 };
const run = (day: number, percent: number, mark: RunResult['mark'], goalPercent = 100): RunResult => ({
  place,
  percent,
  goalPercent,
  mark,
  startedAt: `2026-11-${String(day).padStart(2, '0')}T19:00:00.000Z`,
});

test.each<[string, RunResult[], number | null, number | null]>([
  ['never run', [], null, null],
  ['run, never marked', [run(1, 80, null)], null, null],
  ['good at the goal', [run(1, 100, 'good')], 1, 100],
  ['good at three quarters of it', [run(1, 60, 'good', 80)], 0.75, 60],
  ['half of them good', [run(1, 80, 'good'), run(2, 90, 'again')], 0.4, 80],
  ['never good', [run(1, 80, 'again')], 0, null],
  [
    'only the last five count',
    [
      run(9, 60, 'good'),
      ...[1, 2, 3, 4].map((d) => run(d, 100, 'again')),
      run(5, 100, 'good'),
      run(6, 100, 'good'),
      run(7, 50, 'good'),
      run(8, 50, 'good'),
    ],
    1,
    100,
  ],
  ['what was clapped prepares', [run(1, 60, 'good'), { ...run(2, 100, 'good'), way: 'clap' }], 0.6, 60],
  ['faster than the goal is no more than ready', [run(1, 120, 'good')], 1, 120],
])('%s', (_name, runs, readiness, best) => {
  const record = seamRecord(runs);
  expect(record.readiness === null ? null : +record.readiness.toFixed(6)).toBe(readiness);
  expect(record.bestPercent).toBe(best);
});

test('a piece is as ready as its seams, the hard ones counting more; a span counts for the seams inside it', () => {
  const compiled = compilePiece(
    pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
      { meter: '15/16 as 4+4+4+3' },
      { meter: '4/4' },
      {},
    ),
  );
  const [into, out] = [seamPlace(compiled, 1), seamPlace(compiled, 2)];
  const span = { kind: 'bars' as const, barIndex: 1, label: '2', bars: 2 };
  const good = run(1, 100, 'good');
  const seams = readinessOf(compiled, [{ ...good, place: into }]);
  expect(seams.map(({ barIndex, readiness }) => [barIndex, readiness])).toEqual([
    [1, 1],
    [2, null],
  ]);
  const [a, b] = seams.map(({ score }) => score);
  expect(pieceReadinessMaybe(seams)).toBeCloseTo(a! / (a! + b!), 12);
  const overSpan = readinessOf(compiled, [{ ...good, place: span }]);
  expect(overSpan.map(({ readiness }) => readiness)).toEqual([null, 1]);
  expect(readinessOf(compiled, [{ ...good, place: out }]).map(({ runs }) => runs)).toEqual([0, 1]);
});

test('what sections played at their stands counts, whatever was said of the whole', () => {
  const compiled = compilePiece(
    pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] }, { meter: '15/16 as 4+4+4+3' }),
  );
  const took = (explanation: 'held' | 'filled-up' | 'too-few') => ({
    take: { seams: [{ barIndex: 1, explanation }] },
  });
  const ready = (...sectionTakes: ReturnType<typeof took>[]) =>
    readinessOf(compiled, [{ ...run(1, 100, 'good'), place: seamPlace(compiled, 1), sectionTakes }])[0]
      ?.readiness;
  expect(ready(took('held'), took('filled-up'))).toBe(0);
  expect(ready(took('held'), took('filled-up'), took('held'))).toBe(1);
  expect(ready(took('too-few'))).toBe(1);
});

test('twelve minutes without a break of two want a rest', () => {
  const minutes = (starts: readonly number[], length: number) =>
    starts.map((start) => ({ startSeconds: 60 * start, lengthSeconds: 60 * length }));
  expect(isRestDue(minutes([0, 4, 8], 3.9))).toBe(false);
  expect(isRestDue(minutes([0, 4, 8, 12], 3.5))).toBe(true);
  expect(isRestDue(minutes([0, 4, 8, 14], 3.5))).toBe(false);
});
