import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { carriedOf, surprises } from './surprise.ts';

/** How misses go together, in spreads squared: all by where the person stands, neighbours by the timekeeper, each by the hands. */
function covariance(row: number, column: number): number {
  return 0.12 + 0.84 * 0.6 ** Math.abs(row - column) + (row === column ? 0.16 : 0);
}

/** The slow twin: misses against the root of their covariance (Cholesky), one by one. */
function whitened(misses: readonly number[], at: readonly number[]): number[] {
  const root: number[][] = [];
  const fresh: number[] = [];
  at.forEach((place, row) => {
    const line: number[] = [];
    for (let column = 0; column <= row; column++) {
      const known = line.reduce((sum, value, k) => sum + value * (root[column]?.[k] ?? 0), 0);
      const rest =
        covariance(place, at[column]!) - (column < row ? known : line.reduce((sum, v) => sum + v * v, 0));
      line.push(column < row ? rest / root[column]![column]! : Math.sqrt(rest));
    }
    root.push(line);
    const told = fresh.reduce((sum, value, k) => sum + value * line[k]!, 0);
    fresh.push((misses[row]! - told) / line[row]!);
  });
  return fresh;
}

test('what is new in each onset is what its covariance with those before it leaves, also where some are left out', () => {
  for (let seed = 1; seed <= 40; seed++) {
    const random = seededRandom(seed);
    const misses = Array.from({ length: 14 }, () => (random() < 0.2 ? NaN : 6 * random() - 3));
    const shape = misses.map(() => random());
    const [fresh, shaped] = surprises([Float64Array.from(misses), Float64Array.from(shape)]) as [
      Float64Array,
      Float64Array,
    ];
    const at = misses.flatMap((miss, index) => (Number.isNaN(miss) ? [] : [index]));
    const slow = whitened(
      at.map((index) => misses[index]!),
      at,
    );
    const slowShape = whitened(
      at.map((index) => shape[index]!),
      at,
    );
    at.forEach((index, order) => {
      expect(fresh[index]).toBeCloseTo(slow[order]!, 9);
      expect(shaped[index]).toBeCloseTo(slowShape[order]!, 9);
    });
    expect([...fresh].filter(Number.isNaN)).toHaveLength(misses.length - at.length);
  }
});

test('what a person brings along is told from their own onsets, and is the usual where there are few', () => {
  const walk = (carried: number, count: number) => {
    const random = seededRandom(5);
    const bell = () => Array.from({ length: 12 }, random).reduce((sum, value) => sum + value, -6);
    let off = 0;
    return Array.from({ length: count }, () => {
      off = carried * off + Math.sqrt(1 - carried ** 2) * bell();
      return 0.015 * (Math.sqrt(0.84) * off + Math.sqrt(0.16) * bell());
    });
  };
  expect(carriedOf([])).toBe(0.6);
  expect(carriedOf(walk(0.8, 6))).toBeCloseTo(0.6, 0.8);
  for (const carried of [0.35, 0.6, 0.8])
    expect(Math.abs(carriedOf(walk(carried, 1500)) - carried)).toBeLessThan(0.07);
});
