import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { aligned } from './align.ts';

/** The cheapest alignment, by looking at every cell of times against onsets: costs as the analysis has them. */
function slowCost(times: readonly number[], onsets: readonly number[], spread: number): number {
  const [alone, far] = [6, 14];
  const costs = [onsets.map(() => 0).concat(0)];
  for (const time of times) {
    const above = costs.at(-1)!;
    const here = [above[0]! + alone];
    onsets.forEach((onset, at) => {
      const apart = Math.min(far, 7 * Math.log(1 + (onset - time) ** 2 / (spread * spread * 6)));
      here.push(Math.min(above[at]! + apart, above[at + 1]! + alone, here[at]! + alone));
    });
    costs.push(here);
  }
  return Math.min(...costs.at(-1)!);
}

test('of a thousand takes each alignment is as cheap as the cheapest, in order, and made of what it says', () => {
  const seconds = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  /** A time after the one before it, and its onset's miss, or none. */
  const asked = fc.tuple(seconds(0.02, 0.52), fc.option(seconds(-0.125, 0.125), { freq: 6 }));
  const others = fc.array(seconds(0, 1), { maxLength: 6 });
  fc.assert(
    fc.property(seconds(0.005, 0.065), fc.array(asked, { maxLength: 25 }), others, (spread, all, extra) => {
      let time = 0;
      const places = all.map(([step, miss]) => ({ time: (time += step), miss }));
      const times = places.map((place) => place.time);
      const onsets = places
        .flatMap((place) => (place.miss === null ? [] : [place.time + place.miss]))
        .concat(extra.map((share) => share * (time + 1)))
        .sort((a, b) => a - b);
      const { onsetOf, cost, matched } = aligned(times, onsets, spread);
      expect(cost).toBeCloseTo(slowCost(times, onsets, spread), 6);
      const made = [...onsetOf].filter((onset) => onset >= 0);
      expect(made).toHaveLength(matched);
      expect(made).toEqual([...new Set(made)].sort((a, b) => a - b));
    }),
    { numRuns: 1000, seed: 41 },
  );
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
