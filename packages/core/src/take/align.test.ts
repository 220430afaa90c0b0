import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { aligned } from './align.ts';

/** The cheapest alignment, by looking at every cell of times against onsets: costs as the analysis has them. */
function slowCost(times: readonly number[], onsets: readonly number[], spread: number): number {
  const [alone, far] = [6, 14];
  const costs = [onsets.map(() => 0).concat(0)];
  for (const time of times) {
    const above = costs.at(-1)!;
    const here = [above[0]! + alone];
    onsets.forEach((onset, at) => {
      const apart = Math.min(far, 5 * Math.log(1 + (onset - time) ** 2 / (spread * spread * 4)));
      here.push(Math.min(above[at]! + apart, above[at + 1]! + alone, here[at]! + alone));
    });
    costs.push(here);
  }
  return Math.min(...costs.at(-1)!);
}

test('of a thousand random takes each alignment is as cheap as the cheapest, in order, and made of what it says', () => {
  const random = seededRandom(41);
  for (let round = 0; round < 1000; round++) {
    const spread = 0.005 + 0.06 * random();
    const times: number[] = [];
    for (let at = 0, time = 0; at < 25 * random(); at++) times.push((time += 0.02 + 0.5 * random()));
    const end = (times.at(-1) ?? 0) + 1;
    const onsets = times
      .filter(() => random() < 0.85)
      .map((time) => time + 0.25 * (random() - 0.5))
      .concat(Array.from({ length: 6 * random() }, () => end * random()))
      .sort((a, b) => a - b);
    const { onsetOf, cost, matched } = aligned(times, onsets, spread);
    expect(cost).toBeCloseTo(slowCost(times, onsets, spread), 6);
    const made = [...onsetOf].filter((onset) => onset >= 0);
    expect(made).toHaveLength(matched);
    expect(made).toEqual([...new Set(made)].sort((a, b) => a - b));
  }
});

test.each([
  ['nothing at all', [], []],
  ['no onsets', [0, 0.5, 1], []],
  ['only others', [0, 0.5, 1], [7, 8]],
])('%s matches nothing', (_name, times, onsets) => {
  expect(aligned(times, onsets, 0.02)).toEqual({
    onsetOf: new Int32Array(times.length).fill(-1),
    cost: 6 * times.length,
    matched: 0,
  });
});
