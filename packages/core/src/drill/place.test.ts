import { expect, test } from '@jest/globals';
import type { BarsMoved } from '../difference/barsMoved.ts';
import { movedPlaceMaybe } from './place.ts';

/** Two bars came before bar 2, bars 4 and 5 went, and one came after bar 6; all by index. */
const MOVED: BarsMoved = [0, 1, 4, 5, null, null, 6, 8];

test.each<[string, 'seam' | 'bars', number, number, [number, number] | null]>([
  ['a seam before all of it', 'seam', 1, 0, [1, 0]],
  ['a seam after bars that came', 'seam', 3, 0, [5, 0]],
  ['a seam into a bar that went', 'seam', 4, 0, null],
  ['bars with some that came between them', 'bars', 1, 2, [1, 4]],
  ['bars of which the first went', 'bars', 5, 3, [6, 3]],
  ['bars of which the last went', 'bars', 2, 3, [4, 2]],
  ['bars that all went', 'bars', 4, 2, null],
  ['bars beyond the end', 'bars', 8, 2, null],
])('%s', (_, kind, barIndex, bars, now) => {
  expect(movedPlaceMaybe({ kind, barIndex, bars }, MOVED)).toEqual(now && { barIndex: now[0], bars: now[1] });
});
