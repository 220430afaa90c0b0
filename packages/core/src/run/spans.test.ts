import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { barStart, performedCount } from '../timeline/query.ts';
import { clicksIn } from './clicksIn.ts';
import { runFrom } from './planRun.ts';
import { runOf } from './session.ts';
import { PLAIN_RUN, type PerformedSpan, type RunSettings } from './settings.ts';
import { barsUntilMaybe, clickOnAt, clickSpanSet, leftOutToggled } from './spans.ts';

const wanted = (more: Partial<RunSettings>): RunSettings => ({ ...PLAIN_RUN, ...more });
const spans = (...pairs: (readonly [number, number])[]): PerformedSpan[] =>
  pairs.map(([from, to]) => ({ from, to }));
/** Bars of four beats that last two seconds each. */
const EIGHT = proofOf(
  pieceOf(
    ...Array.from({ length: 8 }, (_, bar) =>
      bar === 0 ? { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] } : {},
    ),
  ),
);
const heard = (settings: Partial<RunSettings>, performed = 0) =>
  clicksIn(EIGHT, runFrom(EIGHT, performed, wanted(settings)), { fromSeconds: 2 - 1e-9, toSeconds: 100 });

describe('bars that are left out', () => {
  test.each<[string, Partial<RunSettings>, number, number]>([
    ['in the middle', { leftOut: spans([2, 5]) }, 0, 5],
    ['at the end', { leftOut: spans([6, 8]) }, 0, 6],
    ['two passages', { leftOut: spans([1, 2], [4, 6]) }, 0, 5],
    ['before where one begins: nothing', { leftOut: spans([0, 2]) }, 4, 4],
    ['where one begins inside: what is left of it is played', { leftOut: spans([2, 6]) }, 3, 5],
    ['what is gone round is played', { leftOut: spans([3, 4]), loop: { from: 2, to: 5 }, rounds: 2 }, 2, 6],
    ['what the piece has no more', { leftOut: spans([6, 40]) }, 0, 8],
  ])('%s', (_name, settings, from, bars) => {
    const plan = runFrom(EIGHT, from, wanted(settings));
    expect(plan.lengthSeconds).toBeCloseTo(2 + 2 * bars, 9);
    expect(heard(settings, from).filter(({ kind }) => kind === 'downbeat')).toHaveLength(bars);
  });

  test('everything else sounds as it would, only sooner (random pieces)', () => {
    let tried = 0;
    for (let seed = 1; tried < 25 && seed < 400; seed++) {
      const proof = proofOf(randomPiece(seed, 12));
      const { timeline } = proof.compiled;
      const count = performedCount(timeline);
      const whole = runFrom(proof, 0);
      if (count < 8 || whole.endless || !Number.isFinite(whole.lengthSeconds)) continue;
      if (whole.stretches.some(({ kind }) => kind !== 'music' && kind !== 'countOff')) continue;
      tried++;
      const random = seededRandom(seed);
      const from = 1 + Math.floor(random() * (count - 3));
      const to = from + 1 + Math.floor(random() * (count - from - 1));
      const off = whole.stretches[0]!.lengthSeconds;
      const [start, end] = [off + barStart(timeline, from), off + barStart(timeline, to)];
      const everything = { fromSeconds: -1, toSeconds: 1e6 };
      const slow = clicksIn(proof, whole, everything).flatMap((click) =>
        click.timeSeconds < start - 1e-7
          ? [click.timeSeconds]
          : click.timeSeconds < end - 1e-7
            ? []
            : [click.timeSeconds - (end - start)],
      );
      const short = runFrom(proof, 0, wanted({ leftOut: [{ from, to }] }));
      const times = clicksIn(proof, short, everything).map(({ timeSeconds }) => timeSeconds);
      expect(times).toHaveLength(slow.length);
      times.forEach((time, index) => expect(time).toBeCloseTo(slow[index]!, 7));
    }
    expect(tried).toBe(25);
  });

  test('are joined where they meet, and taken in again where all of them is out', () => {
    expect(leftOutToggled(spans([2, 4]), { from: 4, to: 6 })).toEqual(spans([2, 6]));
    expect(leftOutToggled(spans([8, 9]), { from: 1, to: 3 })).toEqual(spans([1, 3], [8, 9]));
    expect(leftOutToggled(spans([2, 8]), { from: 4, to: 5 })).toEqual(spans([2, 4], [5, 8]));
    expect(leftOutToggled(spans([2, 8]), { from: 2, to: 8 })).toEqual([]);
  });
});

describe('bars with a click of their own', () => {
  const own = [
    { from: 2, to: 4, clickOn: 'downbeats' as const },
    { from: 3, to: 5, clickOn: 'nothing' as const },
  ];

  test('click on what is said of them, the last that was said', () => {
    expect([0, 2, 3, 4, 5].map((bar) => clickOnAt({ clickOn: 'pulse', clickSpans: own }, bar))).toEqual([
      'pulse',
      'downbeats',
      'nothing',
      'nothing',
      'pulse',
    ]);
    const bars = heard({ clickSpans: own }).map(({ timeSeconds }) =>
      Math.floor((timeSeconds - 2 + 1e-6) / 2),
    );
    expect([0, 1, 2, 3, 4, 5].map((bar) => bars.filter((one) => one === bar).length)).toEqual([
      4, 4, 1, 0, 0, 4,
    ]);
  });

  test('the carry clicks through a seam where its bars say so, whatever the others do', () => {
    const seam = proofOf(
      pieceOf(
        { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
        { meter: '6/8', tempo: [{ equivalence: 'eighth = eighth' }] },
        { meter: '4/4', tempo: [{ equivalence: 'eighth = eighth' }] },
        {},
      ),
    );
    const small = (settings: Partial<RunSettings>) =>
      clicksIn(seam, runFrom(seam, 0, wanted(settings)), { fromSeconds: 0, toSeconds: 100 }).filter(
        ({ kind }) => kind === 'subdivision',
      );
    expect(small({})).toEqual([]);
    const first = small({ clickSpans: [{ from: 0, to: 2, clickOn: 'carry' }] });
    expect(first.length).toBeGreaterThan(0);
    expect(first.length).toBeLessThan(small({ clickOn: 'carry' }).length);
  });

  test('are set, changed and given back one by one', () => {
    const set = clickSpanSet(own, { from: 2, to: 4 }, 'subdivision');
    expect(set).toEqual([own[1], { from: 2, to: 4, clickOn: 'subdivision' }]);
    expect(clickSpanSet(set, { from: 3, to: 5 }, null)).toEqual([{ from: 2, to: 4, clickOn: 'subdivision' }]);
  });
});

test('a session that was kept before there were such spans is run as it was', () => {
  const { clickSpans: _clicks, leftOut: _out, ...earlier } = PLAIN_RUN;
  const session = {
    settings: earlier as RunSettings,
    commands: [{ kind: 'start' as const, performed: 0, call: null }],
  };
  expect(runOf(EIGHT, session).plan?.stretches).toEqual(runFrom(EIGHT, 0).stretches);
});

test.each<[string, PerformedSpan[], number, number, number | null]>([
  ['nothing left out', [], 3, 8, 5],
  ['a passage between', spans([4, 7]), 3, 8, 2],
  ['straight after a passage: the next bar', spans([4, 8]), 3, 8, 1],
  ['a passage before does not count', spans([0, 3]), 3, 8, 5],
  ['a passage one stands in counts from there', spans([2, 6]), 3, 8, 3],
  ['a passage after it does not count', spans([9, 12]), 3, 8, 5],
  ['two passages', spans([4, 5], [6, 8]), 3, 8, 2],
  ['left out itself', spans([7, 9]), 3, 8, null],
])('bars until a later one: %s', (_name, leftOut, performed, to, bars) => {
  expect(barsUntilMaybe(leftOut, performed, to)).toBe(bars);
});
