import { expect, test } from '@jest/globals';
import type { BarGeometry, Hop } from '@anchorbeat/core';
import { beadPoint } from './beadPoint.ts';
import { hopPath, hopPathsOf, pointOnHop } from './hopPaths.ts';

const hop = (xPx: number, widthPx: number, parts = 2): Hop => ({
  xPx,
  widthPx,
  heightPx: 40,
  stress: 'beat',
  word: '1',
  parts,
});
const bar = (...hops: Hop[]): BarGeometry => ({
  barIndex: 0,
  performed: 0,
  xPx: 0,
  widthPx: 80,
  hops,
  restRun: null,
});

/** A point of the drawn quadratic curve, from its path data. */
function onPath(path: string, share: number) {
  const [x0, y0, x1, y1, x2, y2] = (path.match(/-?[\d.]+/g) ?? []).map(Number) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const blend = (a: number, b: number, c: number) =>
    (1 - share) ** 2 * a + 2 * share * (1 - share) * b + share ** 2 * c;
  return { x: blend(x0, x1, x2), y: blend(y0, y1, y2) };
}

test('the bead flies along the very curve that is drawn, and lands where it ends', () => {
  for (const share of [0, 0.2, 0.5, 0.9, 1]) {
    const point = pointOnHop(hop(30, 50), share);
    const drawn = onPath(hopPath(hop(30, 50)), share);
    expect(point.x).toBeCloseTo(drawn.x, 9);
    expect(point.y).toBeCloseTo(drawn.y, 9);
  }
  expect(pointOnHop(hop(30, 50), 0.5).y).toBe(-40);
});

test('a bar that is drawn as one hop is crossed in one hop', () => {
  const two = bar(hop(0, 40), hop(40, 40));
  expect(beadPoint(two, { barIndex: 0, beatIndex: 1, share: 0.5 }, 2).x).toBe(60);
  expect(beadPoint(bar(hop(0, 80)), { barIndex: 0, beatIndex: 1, share: 0.5 }, 2).x).toBe(60);
});

test('subdivisions vanish before they crowd', () => {
  expect(hopPathsOf([bar(hop(0, 14, 2))]).subdivisions).not.toBe('');
  expect(hopPathsOf([bar(hop(0, 13, 2))]).subdivisions).toBe('');
  expect(hopPathsOf([bar(hop(0, 90, 1))]).subdivisions).toBe('');
});
