import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { Proof } from '../proof/proof.ts';
import type { BarDocument } from '../document/document.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { barStart } from '../timeline/query.ts';
import { nextBoundaryMaybe, type RunBoundary } from './boundary.ts';
import { clicksIn } from './clicksIn.ts';
import { changedRun, cuedRunMaybe, endedRun, goneOnRunMaybe, runFrom } from './planRun.ts';
import { runMomentMaybe } from './runMoment.ts';
import type { RunPlan } from './runPlan.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

const sourceOf = (...bars: readonly BarDocument[]): Proof => proofOf(pieceOf(...bars));

/** A bar of four beats lasts two seconds. */
const fourFour = (count: number, more: Record<number, BarDocument> = {}) =>
  sourceOf(
    ...Array.from({ length: count }, (_, index) => ({
      ...(index === 0 && { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }),
      ...more[index],
    })),
  );

/** "count 0, 0.5 … | 2d 2.5b": the sounds from one moment to another, by kind and time. */
function heard(proof: Proof, plan: RunPlan, from = 0, to = 10_000): string {
  const letters = {
    downbeat: 'D',
    group: 'g',
    beat: 'b',
    subdivision: 's',
    countoff: 'c',
    countoffDownbeat: 'C',
    overlay: 'o',
  };
  return clicksIn(proof, plan, { fromSeconds: from - 1e-9, toSeconds: to - 1e-9 })
    .map(({ timeSeconds, kind }) => `${letters[kind]}${Math.round(timeSeconds * 1000) / 1000}`)
    .join(' ');
}

const allOf = (proof: Proof, plan: RunPlan) => clicksIn(proof, plan, { fromSeconds: 0, toSeconds: 10_000 });
const wanted = (more: Partial<RunSettings>): RunSettings => ({ ...PLAIN_RUN, ...more });
const boundaryAfter = (source: Proof, plan: RunPlan, seconds: number, every: 'beat' | 'bar' = 'bar') =>
  nextBoundaryMaybe(source, plan, seconds, every) as RunBoundary;

describe('tempo', () => {
  test('a slower run is slower from its count-off on, and every ratio stays', () => {
    const source = fourFour(2);
    const plan = runFrom(source, 0, wanted({ percent: 50 }));
    expect(heard(source, plan, 0, 8)).toBe('C0 c1 c2 c3 D4 b5 b6 b7');
    expect(plan.lengthSeconds).toBeCloseTo(12, 10);
  });

  test('a change takes effect on the next beat, or on the next bar', () => {
    const source = fourFour(4);
    const plan = runFrom(source, 0);
    const onBeat = changedRun(
      source,
      plan,
      wanted({ percent: 50 }),
      boundaryAfter(source, plan, 2.6, 'beat'),
    );
    expect(heard(source, onBeat, 2, 7)).toBe('D2 b2.5 b3 b4 D5 b6');
    const onBar = changedRun(source, plan, wanted({ percent: 200 }), boundaryAfter(source, plan, 2.6));
    expect(heard(source, onBar, 2, 5)).toBe('D2 b2.5 b3 b3.5 D4 b4.25 b4.5 b4.75');
  });

  test('also in the count-off', () => {
    const source = fourFour(2);
    const plan = runFrom(source, 0);
    const slower = changedRun(
      source,
      plan,
      wanted({ percent: 50 }),
      boundaryAfter(source, plan, 0.7, 'beat'),
    );
    expect(heard(source, slower, 0, 6)).toBe('C0 c0.5 c1 c2 D3 b4 b5');
  });

  test('holds in beats are scaled, holds in seconds are not', () => {
    const source = fourFour(2, { 0: { holds: [{ at: '3/4', length: '1 seconds' }] } });
    const half = runFrom(source, 0, wanted({ percent: 50 }));
    expect(heard(source, half, 4, 12)).toBe('D4 b5 b6 b7 D9 b10 b11');
    const beats = fourFour(2, { 0: { holds: [{ at: '3/4', length: '1 beats' }] } });
    expect(heard(beats, runFrom(beats, 0, wanted({ percent: 50 })), 4, 12)).toBe('D4 b5 b6 b7 D9 b10 b11');
  });

  test('a random walk of changes: music and clicks go on from where they were, whatever the pace', () => {
    const random = seededRandom(8);
    for (let round = 0; round < 20; round++) {
      const source = proofOf(randomPiece(round, 40));
      let plan = runFrom(source, 0);
      let at = 0;
      for (let change = 0; change < 6; change++) {
        const boundary = nextBoundaryMaybe(source, plan, at + random() * 8, random() < 0.5 ? 'beat' : 'bar');
        if (!boundary) break;
        at = boundary.runSeconds;
        plan = changedRun(source, plan, wanted({ percent: 25 + Math.floor(random() * 126) }), boundary);
      }
      const starts = plan.stretches.map(({ runSeconds }) => runSeconds);
      expect([...starts].sort((a, b) => a - b)).toEqual(starts);
      plan.stretches.reduce((before, stretch) => {
        expect(stretch.runSeconds).toBeCloseTo(before.runSeconds + before.lengthSeconds, 9);
        if (stretch.kind === 'music' && before.kind === 'music')
          expect(stretch.fromSeconds).toBeCloseTo(before.fromSeconds + before.lengthSeconds * before.pace, 6);
        return stretch;
      });
      const beats = allOf(source, plan).filter(({ kind }) => !kind.startsWith('count'));
      const all = allOf(source, runFrom(source, 0)).filter(({ kind }) => !kind.startsWith('count'));
      expect(beats.map(({ kind }) => kind)).toEqual(all.map(({ kind }) => kind));
    }
  });
});

describe('loops', () => {
  test('round without a gap, or counted off each time', () => {
    const source = fourFour(6);
    const loop = { from: 1, to: 3 };
    const plan = runFrom(source, 1, wanted({ loop }));
    expect(heard(source, plan, 5.5, 8)).toBe('b5.5 D6 b6.5 b7 b7.5');
    expect(plan.lengthSeconds).toBe(Infinity);
    const counted = runFrom(source, 1, wanted({ loop, countsEachRound: true }));
    expect(heard(source, counted, 5.5, 9)).toBe('b5.5 C6 c6.5 c7 c7.5 D8 b8.5');
  });

  test('a run into a loop goes round from its end; lifted, it goes on', () => {
    const source = fourFour(6);
    const plan = runFrom(source, 0, wanted({ loop: { from: 1, to: 2 } }));
    const barsOf = (run: RunPlan, times: readonly number[]) =>
      times.map((time) => {
        const moment = runMomentMaybe(source, run, time);
        return moment?.phase === 'bar' ? moment.performed : moment?.phase;
      });
    expect(barsOf(plan, [1, 3, 5, 7, 9])).toEqual(['countOff', 0, 1, 1, 1]);
    const lifted = changedRun(source, plan, PLAIN_RUN, boundaryAfter(source, plan, 7.1));
    expect(barsOf(lifted, [7, 9, 11, 13])).toEqual([1, 1, 2, 3]);
  });

  test('it stops at the end of the bar', () => {
    const source = fourFour(6);
    const plan = runFrom(source, 0);
    const ended = endedRun(plan, boundaryAfter(source, plan, 3).runSeconds);
    expect([ended.lengthSeconds, heard(source, ended, 3)]).toEqual([4, 'b3 b3.5']);
    expect(runMomentMaybe(source, ended, 4.01)).toBeNull();
  });
});

describe('waiting for the director', () => {
  test('a hold until cued waits as long as it takes; after the cue comes one beat, then the music', () => {
    const source = fourFour(3, { 0: { holds: [{ at: '3/4', length: 'until cued' }] } });
    const plan = runFrom(source, 0);
    expect(heard(source, plan, 2)).toBe('D2 b2.5 b3 b3.5');
    expect(plan.lengthSeconds).toBe(Infinity);
    const momentAt = (run: RunPlan, time: number) => runMomentMaybe(source, run, time);
    expect(momentAt(plan, 500)).toMatchObject({ performed: 0, beatIndex: 3, waits: 'for a cue' });
    expect(cuedRunMaybe(source, plan, PLAIN_RUN, 3)).toBeNull();
    const cued = cuedRunMaybe(source, plan, PLAIN_RUN, 500)!;
    expect(heard(source, cued, 4, 502)).toBe('c500 D500.5 b501 b501.5');
    expect(momentAt(cued, 500.2)).toMatchObject({ waits: 'a beat' });
    expect(cued.lengthSeconds).toBeCloseTo(504.5, 10);
  });

  test.each<[string, Record<number, BarDocument>, number[]]>([
    [
      'without endings the pass under way is the last',
      { 1: { startsRepeat: true }, 2: { endsRepeat: 'until cued' } },
      [0, 1, 2, 1, 2, 1, 2, 3, 4, 5],
    ],
    [
      'with endings the pass takes the last one',
      {
        1: { startsRepeat: true },
        2: { ending: '1', endsRepeat: 'until cued' },
        3: { ending: '2' },
      },
      [0, 1, 2, 1, 2, 1, 3, 4, 5],
    ],
  ])('an open repeat goes round until it is said go on: %s', (_name, signs, expected) => {
    const source = fourFour(6, signs);
    const plan = runFrom(source, 0);
    expect(plan.lengthSeconds).toBe(Infinity);
    // Said in the first beat of the third time through bar 1.
    const bar = boundaryAfter(source, plan, 2 + 9.9);
    const on = goneOnRunMaybe(source, plan, PLAIN_RUN, bar)!;
    const bars = expected.map((_, index) => {
      const moment = runMomentMaybe(source, on, 2 + index * 2 + 1);
      return moment?.phase === 'bar' ? moment.barIndex : null;
    });
    expect(bars).toEqual(expected);
    expect(on.lengthSeconds).toBeCloseTo(2 + expected.length * 2, 9);
    expect(goneOnRunMaybe(source, on, PLAIN_RUN, boundaryAfter(source, on, 17))).toBeNull();
    const slower = changedRun(source, on, wanted({ percent: 50 }), boundaryAfter(source, on, 13, 'beat'));
    expect(slower.lengthSeconds).toBeLessThan(60);
  });
});

describe('what is heard of the click', () => {
  const odd = sourceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
    {},
    { meter: '7/8 as 2+2+3' },
    { meter: '4/4' },
    {},
  );

  test.each<[string, Partial<RunSettings>, string]>([
    ['downbeats', { clickOn: 'downbeats' }, 'D2 D4 D6 D7.75 D9.75'],
    ['anchors', { clickOn: 'anchors' }, 'D6 D7.75'],
    ['nothing', { clickOn: 'nothing' }, ''],
    ['one bar on, one off', { clickOn: 'downbeats', fade: { kind: 'bars', on: 1, off: 1 } }, 'D2 D6 D9.75'],
    ['odd bars silent', { clickOn: 'downbeats', fade: { kind: 'odd bars' } }, 'D2 D4 D7.75 D9.75'],
    [
      'fewer and fewer',
      { fade: { kind: 'fewer', bars: 1 } },
      'D2 b2.5 b3 b3.5 D4 D6 D9.75 b10.25 b10.75 b11.25',
    ],
  ])('%s', (_name, settings, expected) => {
    expect(heard(odd, runFrom(odd, 0, wanted(settings)), 2)).toBe(expected);
  });

  test('equal notes over the bar fall at even parts of it, whatever is under them', () => {
    expect(heard(odd, runFrom(odd, 0, wanted({ clickOn: 'downbeats', overlay: 3 })), 4, 8)).toBe(
      'D4 o4.667 o5.333 D6 o6.583 o7.167 D7.75',
    );
    const slower = changedRun(
      odd,
      runFrom(odd, 0, wanted({ overlay: 4 })),
      wanted({ clickOn: 'nothing', overlay: 4, percent: 50 }),
      boundaryAfter(odd, runFrom(odd, 0), 5.9),
    );
    expect(heard(odd, slower, 6, 12)).toBe('o6.875 o7.75 o8.625 o10.5 o11.5');
  });

  test('changing what is heard moves no beat', () => {
    const plan = runFrom(odd, 0);
    const changed = changedRun(odd, plan, wanted({ clickOn: 'subdivision' }), boundaryAfter(odd, plan, 3.9));
    const beats = allOf(odd, changed).filter(({ kind }) => kind !== 'subdivision');
    expect(beats).toEqual(allOf(odd, plan));
    expect(barStart(odd.compiled.timeline, 2)).toBeCloseTo(4, 10);
  });
});
