import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { BarDocument } from '../document/document.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { runFrom } from '../run/planRun.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { askedOf } from './expected.ts';
import { ensembleTake, keptSectionTakes, togetherOffWords, type SectionTake } from './ensembleTake.ts';
import { simulatedTake, type Habit } from './simulatedPlayer.ts';
import { analysedTake } from './takeAnalysis.ts';
import { takeRecordOf } from './takeRecord.ts';

const plain = (count: number) => Array.from({ length: count }, (): BarDocument => ({}));
const proof = proofOf(
  pieceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] },
    ...plain(7),
    { meter: '15/16 as 4+4+4+3' },
    { meter: '4/4' },
    ...plain(6),
  ),
);
const plan = runFrom(proof, 0);
const ODD = 8;
const AFTER = ODD + 1;

function taken(section: string, onsets: readonly number[]): SectionTake {
  const analysis = analysedTake(proof, plan, { onsets, play: 'pulse' });
  return { section, take: takeRecordOf(proof, 'pulse', analysis, plan) };
}

function simulated(section: string, habit: Habit, seed: number, constantMs = 20): SectionTake {
  const wishes = { habit, seed, constantMs, spreadMs: 12, untilSeconds: plan.lengthSeconds };
  return taken(section, simulatedTake(proof, plan, wishes).onsets);
}

/** Two sections by the model of linear phase correction, the second drawn to where the first was. */
function pair(seed: number, share: number): readonly [SectionTake, SectionTake] {
  const random = seededRandom(seed);
  const bell = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const { onsets } = askedOf(proof, plan, 'pulse', plan.lengthSeconds);
  let [a, b] = [0, 0];
  const times: Array<readonly [number, number]> = [];
  for (const { seconds } of onsets) {
    times.push([seconds + a, seconds + b]);
    [a, b] = [0.75 * a + 0.016 * bell(), 0.8 * b + share * (a - b) + 0.012 * bell()];
  }
  return [
    taken(
      'Reeds',
      times.map(([first]) => first),
    ),
    taken(
      'Brass',
      times.map(([, second]) => second),
    ),
  ];
}

describe('who follows whom', () => {
  const rounds = Array.from({ length: 60 }, (_, at) => 900 + at);
  const found = (share: number) =>
    rounds.map((seed) => {
      const { following } = ensembleTake(proof, pair(seed, share));
      return following.map(({ follower, leader }) => `${follower} after ${leader}`).join();
    });

  test('a section that is drawn to another is found, the right way about', () => {
    const all = found(0.55);
    expect(all.filter((one) => one === 'Brass after Reeds').length).toBeGreaterThanOrEqual(54);
    expect(all.filter((one) => one.includes('Reeds after')).length).toBe(0);
  });

  test('of two that only hear the click neither is said to follow', () => {
    expect(found(0).filter((one) => one !== '').length).toBeLessThanOrEqual(1);
  });
});

describe('at a seam', () => {
  test('sections are told by what they did, mistakes first', () => {
    const takes = [
      simulated('Handbells', 'held', 1),
      simulated('Reeds', 'filled-up', 2),
      simulated('Brass', 'filled-up', 3, 80),
    ];
    const { seams } = ensembleTake(proof, takes);
    const odd = seams.filter(({ barIndex }) => barIndex === ODD || barIndex === AFTER);
    expect(
      odd.flatMap(({ did }) => did.map(({ explanation, sections }) => [explanation, sections])),
    ).toContainEqual(['filled-up', ['Reeds', 'Brass']]);
    for (const { did } of seams) expect(did.at(-1)?.explanation).not.toBe('filled-up');
  });
});

test('all sections are kept with their run, the onsets of the last only while they are not too many', () => {
  const one = simulated('Reeds', 'held', 1);
  const long = { ...one.take, onsets: Array.from({ length: 5000 }, () => one.take.onsets[0]!) };
  const kept = keptSectionTakes(['Reeds', 'Brass', 'Drums'].map((section) => ({ section, take: long })));
  expect(kept.map(({ section, take }) => [section, take.onsets.length])).toEqual([
    ['Reeds', 5000],
    ['Brass', 5000],
    ['Drums', 0],
  ]);
  expect(kept[2]?.take.seams).toEqual(one.take.seams);
});

describe('together, though not with the click', () => {
  const { onsets } = askedOf(proof, plan, 'pulse', plan.lengthSeconds);
  /** On the beat up to a bar, and so much off it afterwards. */
  const shifted = (section: string, fromBar: number, offSeconds: number) =>
    taken(
      section,
      onsets.map(({ seconds, performed }) => seconds + (performed >= fromBar ? offSeconds : 0)),
    );

  test('sections that are late by the same are told as one, the one on the click is not', () => {
    const takes = [shifted('Reeds', AFTER, 0.11), shifted('Brass', AFTER, 0.12), shifted('Drums', 99, 0)];
    const { togetherOff } = ensembleTake(proof, takes);
    expect(togetherOff.map(({ performed }) => performed)).toEqual([9, 10, 11, 12, 13, 14, 15]);
    expect(togetherOffWords(proof, togetherOff)).toEqual([
      'bar 10 to bar 16: Reeds and Brass are together, 115 ms behind the click',
    ]);
  });

  test('off to different sides, or far from one another, is not together', () => {
    for (const second of [-0.11, 0.25]) {
      const takes = [shifted('Reeds', AFTER, 0.11), shifted('Brass', AFTER, second)];
      expect(ensembleTake(proof, takes).togetherOff).toEqual([]);
    }
  });

  test('one section alone is together with nobody', () => {
    const { togetherOff, following } = ensembleTake(proof, [shifted('Reeds', AFTER, 0.11)]);
    expect([togetherOff, following]).toEqual([[], []]);
  });
});
