import { expect, test } from '@jest/globals';
import { simplestBetween } from '../fraction/simplest.ts';
import { RAMP_SHAPES, rampSeconds } from './ramp.ts';
import { fitRampMaybe } from './rampFit.ts';

test.each(RAMP_SHAPES.flatMap((shape) => [[shape, 0.5, 0.3] as const, [shape, 0.4, 0.66] as const]))(
  '%s from %d to %d is found again from its steps',
  (shape, startRate, endRate) => {
    const curve = { shape, startRate, endRate, lengthWholes: 3 };
    const points = Array.from({ length: 24 }, (_, step) => {
      const wholes = (step + 1) / 8;
      return { wholes, seconds: rampSeconds(curve, wholes) };
    });
    const fit = fitRampMaybe(points)!;
    expect(fit.curve.shape).toBe(shape);
    expect(fit.curve.startRate).toBeCloseTo(startRate, 7);
    expect(fit.curve.endRate).toBeCloseTo(endRate, 7);
    expect(fit.worstSeconds).toBeLessThan(1e-9);
  },
);

test('steps that are no ramp do not pass for one', () => {
  const points = [1, 2, 3, 4, 5, 6].map((step) => ({
    wholes: step / 4,
    seconds: step * 0.5 + (step % 2) * 0.2,
  }));
  expect(fitRampMaybe(points)!.worstSeconds).toBeGreaterThan(0.05);
  expect(fitRampMaybe(points.slice(0, 2))).toBeNull();
});

test.each<[number, number, number, number]>([
  [95.9999, 96.0001, 96, 1],
  [58.6666, 58.6667, 176, 3],
  [66.25, 66.25, 265, 4],
  [0.3, 0.35, 1, 3],
])('the simplest number from %d to %d is %d/%d', (low, high, n, d) => {
  expect(simplestBetween(low, high)).toEqual({ n, d });
});
