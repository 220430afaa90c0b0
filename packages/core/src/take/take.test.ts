import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { BarDocument } from '../document/document.ts';
import { runFrom } from '../run/planRun.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { aligned } from './align.ts';
import { askedOf } from './expected.ts';
import { simulatedTake, type Habit } from './simulatedPlayer.ts';
import { analysedTake } from './takeAnalysis.ts';

function sceneOf(...bars: readonly BarDocument[]) {
  const proof = proofOf(pieceOf(...bars));
  const plan = runFrom(proof, 0);
  return { proof, plan };
}

const plain = (count: number) => Array.from({ length: count }, (): BarDocument => ({}));
const opening: BarDocument = { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] };
const SHORT_BAR = [opening, ...plain(5), { meter: '15/16 as 4+4+4+3' }, { meter: '4/4' }, ...plain(6)];
const SLOWER = [opening, ...plain(5), { tempo: [{ tempo: 'quarter = 76' }] }, ...plain(7)];
const TURNED = [
  opening,
  ...plain(5),
  { meter: '6/8', tempo: [{ equivalence: 'eighth = dotted eighth' }] },
  ...plain(7),
];
const UNEVEN = [
  opening,
  ...plain(5),
  { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'eighth = eighth' }] },
  ...plain(7),
];
const ONE_UNEVEN = [opening, ...plain(5), { meter: '7/8 as 2+2+3' }, { meter: '4/4' }, ...plain(6)];
const SEAM = 6;

describe('what is asked for', () => {
  const { proof, plan } = sceneOf(opening, { meter: '7/8 as 2+2+3', rhythm: 'e e q q.' }, { meter: '4/4' });
  test.each([
    ['pulse', [0, 0.25, 0.5, 0.75, 1, 1.25, 1.5]],
    ['groups', [0, 1, 1.25, 1.5]],
    ['notes', [0, 0.25, 0.5, 0.75, 1, 1.125, 1.25, 1.5]],
  ] as const)('%s, in whole notes from the entry', (play, places) => {
    const { onsets } = askedOf(proof, plan, play, 100);
    expect(onsets.map(({ wholes }) => wholes).filter((at) => at < 1.875)).toEqual(places);
    const entry = plan.countOff.lengthSeconds;
    for (const { seconds, wholes } of onsets) expect(seconds - entry).toBeCloseTo(wholes * 2.4, 9);
  });
});

describe('onsets in order', () => {
  test('those left out and those too many are told apart from those that are off', () => {
    const { onsetOf, matched } = aligned([0, 1, 2, 3, 4], [-3, 0.02, 0.99, 2.5, 3.03, 4.01, 9], 0.02);
    expect([...onsetOf]).toEqual([1, 2, -1, 4, 5]);
    expect(matched).toBe(4);
  });

  test('as likely as any other way to match them, tried one by one', () => {
    const random = seededRandom(5);
    for (let round = 0; round < 60; round++) {
      const times = Array.from({ length: 4 }, (_, index) => index * 0.3 + random() * 0.2);
      const onsets = times.filter(() => random() > 0.2).map((time) => time + (random() - 0.5) * 0.2);
      const costOf = (row: number, column: number): number => {
        if (row === 0) return 0;
        if (column === 0) return 6 * row;
        const square = ((onsets[column - 1]! - times[row - 1]!) / 0.03) ** 2;
        const together = Math.min(14, 7 * Math.log1p(square / 6));
        return Math.min(
          costOf(row - 1, column - 1) + together,
          costOf(row - 1, column) + 6,
          costOf(row, column - 1) + 6,
        );
      };
      const slow = Math.min(
        ...Array.from({ length: onsets.length + 1 }, (_, end) => costOf(times.length, end)),
      );
      expect(aligned(times, onsets, 0.03).cost).toBeCloseTo(slow, 9);
    }
  });
});

/** How often each habit is called by its name at the seam where it shows, over seeds and spreads. */
function namedShare(
  bars: readonly BarDocument[],
  habit: Habit,
  count: number,
  play: 'pulse' | 'notes' = 'pulse',
) {
  const { proof, plan } = sceneOf(...bars);
  let [right, told, surelyWrong] = [0, 0, 0];
  for (let seed = 1; seed <= count; seed++) {
    const random = seededRandom(seed * 37);
    const spreadMs = 10 + 22 * random();
    const { onsets, mistakes } = simulatedTake(proof, plan, {
      habit,
      seed,
      play,
      spreadMs,
      constantMs: -40 + 160 * random(),
      missing: 0.05 * random(),
      extra: 0.03 * random(),
      atPerformed: [SEAM],
      untilSeconds: plan.lengthSeconds - 0.01,
    });
    if (habit !== 'held' && Math.abs(mistakes.get(SEAM) ?? 0) < 2 * spreadMs) continue;
    const verdict = analysedTake(proof, plan, { onsets, play }).seams.find(
      ({ performed }) => performed === SEAM,
    );
    told++;
    if (verdict?.explanation === habit) right++;
    else if (verdict && verdict.explanation !== 'too-few' && verdict.probability > 0.9) surelyWrong++;
  }
  return { share: right / told, told, surelyWrong };
}

describe('a mistake is called by its name', () => {
  test.each<[Habit, readonly BarDocument[], number]>([
    ['held', SHORT_BAR, 0.96],
    ['held', SLOWER, 0.96],
    ['filled-up', SHORT_BAR, 0.97],
    ['old-pulse', SLOWER, 0.95],
    ['turned-round', TURNED, 0.97],
    ['lost-beat', UNEVEN, 0.95],
    ['lost-beat', ONE_UNEVEN, 0.9],
    ['gained-beat', UNEVEN, 0.95],
    ['early', SLOWER, 0.95],
    ['late', SHORT_BAR, 0.95],
    ['rushed', SLOWER, 0.95],
    ['dragged', SLOWER, 0.95],
    ['settled-in', SLOWER, 0.85],
    ['followed', SLOWER, 0.85],
  ])('%s', (habit, bars, least) => {
    const { share, told } = namedShare(bars, habit, habit === 'held' ? 160 : 60);
    expect(told).toBeGreaterThan(20);
    expect(share).toBeGreaterThanOrEqual(least);
  });

  test('whoever goes on with one of the last beats of a ritardando has kept the old pulse', () => {
    const easing = [
      opening,
      ...plain(3),
      { tempo: [{ term: 'rit.', ramp: 'even per beat to half as fast' }] },
      {},
      { meter: '6/8', tempo: [{ tempo: 'dotted quarter = 84' }] },
      ...plain(7),
    ];
    expect(namedShare(easing, 'old-pulse', 20).share).toBeGreaterThan(0.9);
  });

  test('a bar cut to the full one, and a triplet where its notes are played', () => {
    const long = [opening, ...plain(5), { meter: '17/16 as 4+4+4+5' }, { meter: '4/4' }, ...plain(6)];
    expect(namedShare(long, 'cut-short', 30).share).toBeGreaterThan(0.9);
    const written = SHORT_BAR.map((bar, index) => (index === SEAM ? { ...bar, rhythm: 'q q q s s s' } : bar));
    expect(namedShare(written, 'triplet', 30, 'notes').share).toBeGreaterThan(0.8);
  });

  test('the constant, the spread and what was left out are told', () => {
    const { proof, plan } = sceneOf(opening, ...plain(60));
    const wishes = { habit: 'held' as const, untilSeconds: plan.lengthSeconds - 0.01, extra: 0 };
    for (let seed = 1; seed <= 10; seed++) {
      const { onsets } = simulatedTake(proof, plan, {
        ...wishes,
        seed,
        spreadMs: 20,
        constantMs: 60,
        missing: 0.04,
      });
      const told = analysedTake(proof, plan, { onsets, play: 'pulse' });
      expect(Math.abs(told.constantMs - 60)).toBeLessThan(25);
      expect(told.spreadMs).toBeGreaterThan(12);
      expect(told.spreadMs).toBeLessThan(30);
      expect(told.missing).toBeLessThan(25);
      expect(Math.abs(told.driftMsPerBar)).toBeLessThan(1.5);
    }
  });

  test('too few are called too few, and nothing is nothing', () => {
    const { proof, plan } = sceneOf(...SLOWER);
    const start = plan.countOff.lengthSeconds;
    const few = [start, start + 0.6, start + 14.41, start + 15.2];
    expect(analysedTake(proof, plan, { onsets: few, play: 'pulse' }).seams[0]?.explanation).toBe('too-few');
    expect(analysedTake(proof, plan, { onsets: [], play: 'pulse' }).seams).toEqual([]);
    expect(analysedTake(proof, plan, { onsets: [NaN, Infinity, -5], play: 'pulse' }).seams).toEqual([]);
  });
});
