import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { surprises } from './surprise.ts';

/** How misses go together, in spreads squared: all by where the person stands, neighbours by the timekeeper, each by the hands. */
function covariance(row: number, column: number): number {
  return 4 + 0.84 * 0.6 ** Math.abs(row - column) + (row === column ? 0.16 : 0);
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
    const [fresh, shaped] = surprises([Float64Array.from(misses), Float64Array.from(shape)]).news as [
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

test('a person heard in two parts is heard as in one', () => {
  for (let seed = 1; seed <= 40; seed++) {
    const random = seededRandom(seed);
    const misses = Float64Array.from({ length: 20 }, () => (random() < 0.2 ? NaN : 6 * random() - 3));
    const at = Math.floor(20 * random());
    const { after } = surprises([misses.slice(0, at)], 0.5);
    const [whole] = surprises([misses], 0.5).news;
    const [second] = surprises([misses.slice(at)], 0.5, after).news;
    second?.forEach((fresh, index) => expect(fresh - (whole?.[at + index] ?? 0) || 0).toBeCloseTo(0, 9));
  }
});
