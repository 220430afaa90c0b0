/**
 * An exact fraction, always reduced, `d` at least 1. Positions and lengths in the score are
 * fractions of a whole note. Plain data: it survives JSON, structured clone and a store.
 */
export interface Fraction {
  readonly n: number;
  readonly d: number;
}

export const ZERO: Fraction = { n: 0, d: 1 };
export const ONE: Fraction = { n: 1, d: 1 };

export function gcd(a: number, b: number): number {
  let x = Math.abs(a);
  let y = Math.abs(b);
  while (y !== 0) [x, y] = [y, x % y];
  return x;
}

/** @throws RangeError for a zero denominator, a non-integer, or a result past 2^53. */
export function fraction(n: number, d = 1): Fraction {
  if (d === 0) throw new RangeError(`fraction ${n}/0 has no value`);
  if (!Number.isSafeInteger(n) || !Number.isSafeInteger(d)) {
    throw new RangeError(`fraction ${n}/${d} is not made of safe integers`);
  }
  const shared = gcd(n, d) || 1;
  const sign = d < 0 ? -1 : 1;
  return { n: (sign * n) / shared + 0, d: (sign * d) / shared };
}

export function add(a: Fraction, b: Fraction): Fraction {
  if (a.n === 0) return b;
  if (b.n === 0) return a;
  const shared = gcd(a.d, b.d);
  const scaleA = b.d / shared;
  const scaleB = a.d / shared;
  return fraction(a.n * scaleA + b.n * scaleB, a.d * scaleA);
}

function negate(a: Fraction): Fraction {
  return { n: 0 - a.n, d: a.d };
}

export function subtract(a: Fraction, b: Fraction): Fraction {
  return add(a, negate(b));
}

/** Cross-reduces first, so that it overflows only when the reduced result does. */
export function multiply(a: Fraction, b: Fraction): Fraction {
  const ab = gcd(a.n, b.d) || 1;
  const ba = gcd(b.n, a.d) || 1;
  return fraction((a.n / ab) * (b.n / ba), (a.d / ba) * (b.d / ab));
}

/** @throws RangeError when `b` is zero. */
export function divide(a: Fraction, b: Fraction): Fraction {
  if (b.n === 0) throw new RangeError('division of a fraction by zero');
  return multiply(a, b.n < 0 ? { n: -b.d, d: -b.n } : { n: b.d, d: b.n });
}

export function scale(a: Fraction, factor: number): Fraction {
  return multiply(a, fraction(factor));
}

export function sum(items: readonly Fraction[]): Fraction {
  return items.reduce(add, ZERO);
}

/** Negative, zero or positive. Products stay exact for the denominators music uses; else BigInt decides. */
export function compare(a: Fraction, b: Fraction): number {
  const left = a.n * b.d;
  const right = b.n * a.d;
  if (Number.isSafeInteger(left) && Number.isSafeInteger(right)) return left - right;
  const exact = BigInt(a.n) * BigInt(b.d) - BigInt(b.n) * BigInt(a.d);
  return exact < 0n ? -1 : exact > 0n ? 1 : 0;
}

export function equal(a: Fraction, b: Fraction): boolean {
  return a.n === b.n && a.d === b.d;
}

export function toNumber(a: Fraction): number {
  return a.n / a.d;
}

/** Largest fraction that divides both a whole number of times. */
export function commonMeasure(a: Fraction, b: Fraction): Fraction {
  if (a.n === 0) return b;
  if (b.n === 0) return a;
  const denominator = (a.d / gcd(a.d, b.d)) * b.d;
  return fraction(gcd(a.n * (denominator / a.d), b.n * (denominator / b.d)), denominator);
}

/** Sum, or null where the exact result would leave the safe integers. */
export function maybeAdd(a: Fraction, b: Fraction): Fraction | null {
  const shared = gcd(a.d, b.d);
  const d = a.d * (b.d / shared);
  const n = a.n * (b.d / shared) + b.n * (a.d / shared);
  return Number.isSafeInteger(n) && Number.isSafeInteger(d) ? fraction(n, d) : null;
}
