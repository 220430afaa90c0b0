import { describe, expect, test } from '@jest/globals';
import { seamPlace } from '../drill/place.ts';
import { readinessOf } from '../drill/record.ts';
import { proofOf } from '../compile/compile.ts';
import { runFrom } from '../run/planRun.ts';
import { PLAIN_RUN } from '../run/settings.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { EXPLANATIONS } from './names.ts';
import { simulatedTake, type Habit } from './simulatedPlayer.ts';
import { analysedTake } from './takeAnalysis.ts';
import { takeBars, takeRecordOf, type TakeRecord, type TakeSeam } from './takeRecord.ts';
import { constantWords, EXPLANATION_WORDS, seamTallies, verdictWords } from './takeWords.ts';

const proof = proofOf(
  pieceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
    {},
    {},
    { meter: '7/8 as 2+2+3' },
    { meter: '4/4' },
    {},
    {},
    {},
  ),
);

function taken(habit: Habit, loop: { readonly from: number; readonly to: number } | null = null): TakeRecord {
  const plan = runFrom(proof, 0, { ...PLAIN_RUN, loop });
  const untilSeconds = loop ? 40 : plan.lengthSeconds - 0.1;
  const { onsets } = simulatedTake(proof, plan, { habit, seed: 4, missing: 0, extra: 0, untilSeconds });
  return takeRecordOf(proof, 'pulse', analysedTake(proof, plan, { onsets, play: 'pulse' }));
}

describe('what is kept of a take', () => {
  test('onsets in order, each in its bar; the anchor of a seam is the first beat of the bar after it', () => {
    const { onsets, seams } = taken('filled-up');
    expect(onsets.slice(0, 5)).toMatchObject([0, 0.25, 0.5, 0.75, 0].map((atWholes) => ({ atWholes })));
    for (const { atOnset, performed } of seams)
      expect(onsets[atOnset]).toMatchObject({ performed, atWholes: 0 });
  });

  test('bars come as they were played, a loop’s again and again', () => {
    const straight = takeBars(proof, taken('held'));
    expect(straight.map(({ name }) => name)).toEqual([1, 2, 3, 4, 5, 6, 7, 8].map((bar) => `bar ${bar}`));
    expect(straight.every(({ meanMs, missing }) => Math.abs(meanMs ?? 99) < 40 && missing === 0)).toBe(true);
    const round = takeBars(proof, taken('held', { from: 2, to: 5 })).map(({ performed }) => performed);
    expect(round.slice(0, 8)).toEqual([0, 1, 2, 3, 4, 2, 3, 4]);
  });

  test('a bar that was filled up shows in the bars after it', () => {
    const bars = takeBars(proof, taken('filled-up'));
    expect(bars[4]?.meanMs).toBeGreaterThan(100);
    expect(Math.abs(bars[2]?.meanMs ?? 99)).toBeLessThan(40);
  });
});

const seam = (barIndex: number, explanation: TakeSeam['explanation'], effectMs = 0): TakeSeam => ({
  performed: barIndex,
  barIndex,
  atOnset: 0,
  explanation,
  probability: 0.95,
  effectMs,
  second: null,
  secondProbability: 0,
});

describe('what is told of a take', () => {
  test('what went wrong most comes first, what nobody can tell last', () => {
    const seams = [
      seam(2, 'held'),
      seam(4, 'rushed', -60),
      seam(6, 'too-few'),
      seam(8, 'late', 90),
      seam(4, 'rushed', -80),
      seam(4, 'held'),
    ];
    expect(
      seamTallies({ seams }).map(({ barIndex, passed, held, shown }) => [
        barIndex,
        passed,
        held,
        shown.effectMs,
      ]),
    ).toEqual([
      [8, 1, 0, 90],
      [4, 3, 1, -80],
      [2, 1, 1, 0],
      [6, 0, 0, 0],
    ]);
  });

  test.each<[Partial<TakeSeam>, string]>([
    [{ explanation: 'held' }, 'held'],
    [{ explanation: 'old-pulse', effectMs: 4520 }, 'kept the old pulse, 4.5 s late'],
    [{ explanation: 'filled-up', effectMs: 117.6 }, 'filled the bar up, 118 ms late'],
    [
      { explanation: 'rushed', effectMs: -61, probability: 0.6, second: 'early' },
      'either rushed or came early, 61 ms early',
    ],
    [{ explanation: 'rushed', effectMs: -61, probability: 0.6, second: 'held' }, 'rushed, 61 ms early'],
  ])('%j: %s', (change, words) => {
    expect(verdictWords({ ...seam(1, 'held'), ...change })).toBe(words);
  });

  test('every explanation has its words, and a mistake what helps', () => {
    for (const name of EXPLANATIONS) {
      expect(EXPLANATION_WORDS[name].means.endsWith('.')).toBe(true);
      expect(EXPLANATION_WORDS[name].remedy === 'none').toBe(name === 'held');
    }
    expect(constantWords({ constantMs: -22 })).toContain('22 ms before the click');
    expect(constantWords({ constantMs: 2 })).toBe('on the click');
  });
});

test('a measured run counts by what was measured at the seam, whatever was said of the whole', () => {
  const { compiled } = proof;
  const run = (take: TakeRecord | null, mark: 'good' | 'again' | null) => ({
    place: seamPlace(compiled, 4),
    percent: 100,
    goalPercent: 100,
    mark,
    startedAt: '2026-11-01T10:00:00Z',
    take,
  });
  const ready = (take: TakeRecord | null, mark: 'good' | 'again' | null) =>
    readinessOf(compiled, [run(take, mark)]).find(({ barIndex }) => barIndex === 4)?.readiness;
  expect(ready(null, 'good')).toBe(1);
  expect(ready(taken('held'), null)).toBe(1);
  expect(ready(taken('filled-up'), 'good')).toBe(0);
  expect(ready({ ...taken('held'), seams: [seam(4, 'too-few')] }, null)).toBeNull();
  // A bar was put in before the place since: what was measured moves with it.
  const moved = {
    ...run(taken('filled-up'), 'good'),
    place: { ...seamPlace(compiled, 4), barIndex: 3, label: '5' },
  };
  const earlier = {
    ...moved.take!,
    seams: moved.take!.seams.map((one) => ({ ...one, barIndex: one.barIndex - 1 })),
  };
  expect(
    readinessOf(compiled, [{ ...moved, take: earlier }]).find(({ barIndex }) => barIndex === 4)?.readiness,
  ).toBe(0);
});
