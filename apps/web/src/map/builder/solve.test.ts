import { describe, expect, test } from '@jest/globals';
import { formatEquivalence, formatStatedTempo } from '@anchorbeat/core';
import { exactBpmWords, missWords, solve, type BuilderFields, type Unknown } from './solve.ts';

const fields = (changes: Partial<BuilderFields>): BuilderFields => ({
  oldUnit: 'q',
  oldBpm: '96',
  before: 'e',
  after: 'e',
  nextUnit: 'q.',
  nextBpm: '64',
  ...changes,
});

const solved = (changes: Partial<BuilderFields>, unknown: Unknown, chosen = 0) => {
  const solution = solve(fields(changes), unknown, chosen);
  if (!solution.ok) return solution.problem.message;
  const { old, next, equivalence } = solution.value;
  return [
    formatStatedTempo(old),
    equivalence && formatEquivalence(equivalence),
    formatStatedTempo(next),
  ].join(', ');
};

describe('two give the third', () => {
  test.each<[string, Partial<BuilderFields>, Unknown, string]>([
    [
      'the new tempo',
      { nextBpm: 'never read' },
      'next',
      'quarter = 96, eighth = eighth, dotted quarter = 64',
    ],
    ['the old tempo', { oldBpm: '' }, 'old', 'quarter = 96, eighth = eighth, dotted quarter = 64'],
    [
      'the equivalence',
      { before: '?' },
      'equivalence',
      'quarter = 96, quarter = quarter, dotted quarter = 64',
    ],
    [
      'a tuplet',
      { before: 'e3', after: 's', nextUnit: 'q' },
      'next',
      'quarter = 96, triplet eighth = sixteenth, quarter = 72',
    ],
  ])('%s', (_name, changes, unknown, expected) => {
    expect(solved(changes, unknown)).toBe(expected);
  });

  test.each<[Partial<BuilderFields>, Unknown, string]>([
    [{ oldBpm: 'fast' }, 'next', 'Old tempo: '],
    [{ nextUnit: 'k' }, 'next', 'New tempo: '],
    [{ after: 'z' }, 'old', 'Note = note: '],
    [{ nextBpm: '-3' }, 'equivalence', 'New tempo: '],
  ])('a line that does not read is named: %j', (changes, unknown, message) => {
    expect(solved(changes, unknown)).toContain(message);
  });

  test('what is chosen among the offered is taken; a choice that is gone falls back to the last', () => {
    const offered = solve(fields({ nextBpm: '63' }), 'equivalence');
    if (!offered.ok) throw new Error('it does not solve');
    expect(offered.value.offered.length).toBeGreaterThan(1);
    const [nearest, second] = offered.value.offered;
    expect(Math.abs(nearest!.missRatio)).toBeLessThanOrEqual(Math.abs(second!.missRatio));
    expect(solved({ nextBpm: '63' }, 'equivalence', 1)).toContain(formatEquivalence(second!));
    expect(solved({ nextBpm: '63' }, 'equivalence', 99)).toContain(
      formatEquivalence(offered.value.offered.at(-1)!),
    );
  });
});

test.each([
  [{ n: 64, d: 1 }, '64'],
  [{ n: 133, d: 2 }, '66.5'],
  [{ n: 128, d: 3 }, '42.667, exactly 128/3'],
])('%j is told as %s', (bpm, words) => {
  expect(exactBpmWords(bpm)).toBe(words);
});

test('a miss says which way it goes', () => {
  const exact = { unit: { base: 'quarter', dots: 0, tuplets: [] }, bpm: { n: 64, d: 1 } } as const;
  const carry = { before: exact.unit, after: exact.unit, exact };
  expect([0, 0.02, -0.02, 0.0004].map((missRatio) => missWords({ ...carry, missRatio }))).toEqual([
    'exactly',
    'gives 64.0; yours is 2.0 % faster',
    'gives 64.0; yours is 2.0 % slower',
    'gives 64.0; yours is a hair faster',
  ]);
});
