import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { Proof } from '../proof/proof.ts';
import type { BarDocument } from '../document/document.ts';
import { nextBoundaryMaybe } from '../run/boundary.ts';
import { clicksIn } from '../run/clicksIn.ts';
import { changedRun, runFrom } from '../run/planRun.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { PLAIN_RUN } from '../run/settings.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { drillRunMaybe, PLAIN_DRILL, printedBpmMaybe, type DrillClick } from './drill.ts';
import { barOfPlaceMaybe, barsPlace, phraseAround, seamPlace } from './place.ts';

const TO_SIX_EIGHT: readonly BarDocument[] = [
  { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
  {},
  { meter: '6/8', tempo: [{ equivalence: 'eighth = eighth' }] },
  {},
];

const sourceOf = (...bars: BarDocument[]) =>
  proofOf(pieceOf(...bars.map((bar, index) => (index === 0 ? { meter: '4/4', ...bar } : bar))));

const clicksOf = (proof: Proof, plan: RunPlan) => clicksIn(proof, plan, { fromSeconds: 0, toSeconds: 600 });

/** Clicks of the music of the first round, in seconds from the entry. */
function musicOf(proof: Proof, plan: RunPlan): string[] {
  const [countOff, music] = plan.stretches;
  const start = countOff!.lengthSeconds;
  return clicksOf(proof, plan)
    .filter(
      ({ timeSeconds }) => timeSeconds >= start - 1e-9 && timeSeconds < start + music!.lengthSeconds - 1e-9,
    )
    .map(
      ({ timeSeconds, kind }) => `${kind === 'subdivision' ? '·' : ''}${+(timeSeconds - start).toFixed(4)}`,
    );
}

test.each<[DrillClick, string]>([
  ['pulse', '0 1 2 3 4 5.5'],
  ['carry', '0 ·0.5 1 ·1.5 2 ·2.5 3 ·3.5 4 ·4.5 ·5 5.5 ·6 ·6.5'],
  ['until the seam', '0 1 2 3'],
  ['anchor only', '4'],
  ['nothing', ''],
])('a seam from 4/4 into 6/8 over its two bars, clicking %s', (click, clicks) => {
  const source = sourceOf(...TO_SIX_EIGHT);
  const drill = { ...PLAIN_DRILL, click, context: { before: 1, after: 1 } };
  const run = drillRunMaybe(source.compiled, seamPlace(source.compiled, 2), drill)!;
  expect(run.settings.loop).toEqual({ from: 1, to: 3 });
  expect(musicOf(source, runFrom(source, run.from, run.settings)).join(' ')).toBe(clicks);
});

test('the carry follows each seam of a plain run, the second of two where a bar lies between', () => {
  const source = sourceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
    { meter: '3/4', tempo: [{ equivalence: 'triplet eighth = eighth' }] },
    { meter: '2/4', tempo: [{ equivalence: 'sixteenth = eighth' }] },
  );
  const all = runFrom(source, 0, { ...PLAIN_RUN, clickOn: 'carry' });
  const drilled = runFrom(source, 0, { ...PLAIN_RUN, clickOn: 'carry', seamAt: 1 });
  const small = (plan: RunPlan) => clicksOf(source, plan).filter(({ kind }) => kind === 'subdivision').length;
  // 4/4 in triplets: 8 between the beats; 3/4 in sixteenths leading out, 9, or in eighths leading in, 3; 2/4 in eighths, 2.
  expect([small(all), small(drilled)]).toEqual([8 + 9 + 2, 8 + 3]);
});

test('a loop of so many rounds ends after them, each counted off', () => {
  const source = sourceOf(...TO_SIX_EIGHT);
  const run = drillRunMaybe(source.compiled, seamPlace(source.compiled, 2), { ...PLAIN_DRILL, rounds: 3 })!;
  const plan = runFrom(source, run.from, run.settings);
  expect(plan.stretches.map(({ kind }) => kind)).toEqual([
    'countOff',
    'music',
    'countOff',
    'music',
    'countOff',
    'music',
  ]);
  expect(plan.lengthSeconds).toBeCloseTo(3 * (4 + 8 + 6), 9);
});

test('what is said before a run moves all of it, and a change made later still finds its place', () => {
  const source = sourceOf(...TO_SIX_EIGHT);
  const run = drillRunMaybe(source.compiled, seamPlace(source.compiled, 2), PLAIN_DRILL)!;
  const plan = runFrom(source, run.from, run.settings);
  const call = { word: 'clap the groups', lengthSeconds: 1.5 };
  const called = runFrom(source, run.from, run.settings, { call });
  const clicks = clicksOf(source, called);
  expect(clicks[0]).toMatchObject({ timeSeconds: 0, word: 'clap the groups' });
  expect(clicks.slice(1, 9).map(({ timeSeconds }) => timeSeconds - 1.5)).toEqual(
    clicksOf(source, plan)
      .slice(0, 8)
      .map(({ timeSeconds }) => timeSeconds),
  );
  const boundary = nextBoundaryMaybe(source, called, 6, 'beat')!;
  const slower = changedRun(source, called, { ...run.settings, percent: 50 }, boundary);
  const after = clicksOf(source, slower).filter(
    ({ timeSeconds }) => timeSeconds >= boundary.runSeconds - 1e-9,
  );
  expect(boundary.runSeconds).toBe(6.5);
  expect(after.slice(0, 3).map(({ timeSeconds }) => timeSeconds)).toEqual([6.5, 8.5, 10.5]);
});

test('the written rhythm sounds beside the click, at every onset and at no tie or rest', () => {
  const source = sourceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }], rhythm: 'q. e~ e e rq' });
  const plan = runFrom(source, 0, { ...PLAIN_RUN, soundsRhythm: true });
  const start = plan.stretches[0]!.lengthSeconds;
  const notes = clicksOf(source, plan).filter(({ kind }) => kind === 'overlay');
  expect(notes.map(({ timeSeconds }) => timeSeconds - start)).toEqual([0, 1.5, 2.5]);
});

describe('where a drill is', () => {
  const labelsOf = (...bars: BarDocument[]) => sourceOf(...bars).compiled.labels;
  test.each<[string, BarDocument[], number | null]>([
    ['nothing moved', [{}, {}, {}, {}], 2],
    ['a pickup put before the first bar', [{ meter: '4/4', pickup: '1/4' }, {}, {}, {}, {}], 3],
    ['two bars gone before it, numbers kept', [{ label: '3' }, {}], 0],
    ['numbers that begin again: the nearest', [{}, {}, {}, { label: '1' }, {}, {}], 2],
    ['its number gone: the same place', [{}, {}, { label: '3a' }], 2],
    ['the piece is shorter now', [{}, {}], null],
  ])('%s', (_name, bars, expected) => {
    const place = { kind: 'seam' as const, barIndex: 2, label: '3', bars: 0 };
    expect(barOfPlaceMaybe(labelsOf(...bars), place)).toBe(expected);
  });

  test('a seam first met through a repeat is where it is heard', () => {
    const { compiled } = sourceOf(
      { meter: '4/4', startsRepeat: true },
      { meter: '3/4', endsRepeat: 2 },
      { meter: '3/4' },
    );
    const run = drillRunMaybe(compiled, seamPlace(compiled, 0), PLAIN_DRILL)!;
    expect(run.settings).toMatchObject({ seamAt: 2, loop: { from: 0, to: 4 } });
  });

  test('a phrase reaches to the rehearsal marks, eight bars at most', () => {
    const bars = Array.from({ length: 30 }, (_, bar): BarDocument =>
      bar === 7 ? { rehearsalMark: 'B' } : {},
    );
    const source = sourceOf(...bars);
    expect(phraseAround(source, 10)).toEqual({ before: 3, after: 8 });
    expect(phraseAround(source, 5)).toEqual({ before: 5, after: 2 });
  });

  test('the printed tempo at a place is that of its beat', () => {
    const source = sourceOf(...TO_SIX_EIGHT);
    expect(printedBpmMaybe(source, seamPlace(source.compiled, 2))).toBe(40);
    expect(printedBpmMaybe(source, barsPlace(source.compiled, 0, 2))).toBe(60);
  });
});
