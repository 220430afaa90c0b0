import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { personOf } from './person.ts';

/** Misses of a person in seconds; after each so many onsets they stand elsewhere, and one in twenty is a slip or left out. */
function missesOf(spread: number, carried: number, count: number, seed: number, every = Infinity) {
  const random = seededRandom(seed);
  const bell = () => Array.from({ length: 12 }, random).reduce((sum, value) => sum + value, -6);
  let [off, standing] = [bell(), 0];
  return Array.from({ length: count }, (_, index) => {
    if (index % every === 0) standing = 0.1 * (random() - 0.5);
    off = carried * off + Math.sqrt(1 - carried ** 2) * bell();
    const miss = standing + spread * (Math.sqrt(0.84) * off + Math.sqrt(0.16) * bell());
    const chance = random();
    return chance < 0.03 ? NaN : chance < 0.05 ? miss + 0.2 * (random() - 0.5) : miss;
  });
}

test.each([
  [0.01, 0.4],
  [0.01, 0.8],
  [0.02, 0.6],
  [0.04, 0.4],
  [0.04, 0.8],
])('a spread of %p s, of which %p is brought along, is told from a long take', (spread, carried) => {
  const misses = missesOf(spread, carried, 1200, 3, 40);
  const person = personOf(
    misses,
    Array.from({ length: 29 }, (_, index) => 40 * (index + 1)),
  );
  expect(person.spread / spread).toBeGreaterThan(0.9);
  expect(person.spread / spread).toBeLessThan(1.15);
  expect(Math.abs(person.carried - carried)).toBeLessThan(0.11);
});

test('a short take tells the spread within a third, nine times of ten, and who stands elsewhere after a seam spreads no more', () => {
  for (const every of [Infinity, 15]) {
    let near = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const { spread } = personOf(missesOf(0.02, 0.6, 45, seed, every), every === 15 ? [15, 30] : []);
      if (Math.abs(Math.log(spread / 0.02)) < Math.log(4 / 3)) near++;
    }
    expect(near).toBeGreaterThanOrEqual(90);
  }
});

test('of whom nothing is heard is as people usually are', () => {
  expect(personOf([], [])).toEqual({ spread: 0.025, carried: 0.6 });
  expect(personOf([NaN, NaN], [1])).toEqual({ spread: 0.025, carried: 0.6 });
});
