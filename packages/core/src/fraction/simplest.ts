import { fraction, type Fraction } from './fraction.ts';

/** The fraction with the smallest denominator from `low` to `high`, both above zero (walking down the Stern–Brocot tree). */
export function simplestBetween(low: number, high: number): Fraction {
  if (!(low > 0 && high >= low)) throw new RangeError(`nothing lies between ${low} and ${high}`);
  const whole = Math.ceil(low - 1e-12);
  if (whole <= high) return fraction(whole);
  const floor = Math.floor(low);
  const inner = simplestBetween(1 / (high - floor), 1 / (low - floor));
  return fraction(floor * inner.n + inner.d, inner.n);
}
