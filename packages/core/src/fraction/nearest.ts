import { fraction, gcd, type Fraction } from './fraction.ts';

const LIMIT = BigInt(Number.MAX_SAFE_INTEGER);

/** A fraction that may have been rounded to stay within safe integers (relative error below 1e-14). */
export interface NearestFraction {
  readonly value: Fraction;
  readonly isExact: boolean;
}

/**
 * a × b, exact while the reduced result fits; else the last convergent of its continued fraction
 * that fits. A chain of equivalences multiplies for as long as a piece lasts, so it must not throw.
 */
export function multiplyNearest(a: Fraction, b: Fraction): NearestFraction {
  const ab = gcd(a.n, b.d) || 1;
  const ba = gcd(b.n, a.d) || 1;
  const [fastN, fastD] = [(a.n / ab) * (b.n / ba), (a.d / ba) * (b.d / ab)];
  if (Number.isSafeInteger(fastN) && Number.isSafeInteger(fastD))
    return { value: fraction(fastN, fastD), isExact: true };
  const n = BigInt(a.n) * BigInt(b.n);
  const d = BigInt(a.d) * BigInt(b.d);
  const shared = bigGcd(n, d) || 1n;
  const reducedN = n / shared;
  const reducedD = d / shared;
  if (reducedN <= LIMIT && reducedN >= -LIMIT && reducedD <= LIMIT) {
    return { value: fraction(Number(reducedN), Number(reducedD)), isExact: true };
  }
  return { value: lastConvergent(reducedN, reducedD), isExact: false };
}

function lastConvergent(n: bigint, d: bigint): Fraction {
  let [p0, q0, p1, q1] = [0n, 1n, 1n, 0n];
  let [x, y] = [n, d];
  while (y !== 0n) {
    const term = x / y;
    const [p2, q2] = [term * p1 + p0, term * q1 + q0];
    if (p2 > LIMIT || q2 > LIMIT) break;
    [p0, q0, p1, q1] = [p1, q1, p2, q2];
    [x, y] = [y, x - term * y];
  }
  if (q1 === 0n) return fraction(Number.MAX_SAFE_INTEGER);
  if (p1 === 0n) return fraction(1, Number.MAX_SAFE_INTEGER);
  return fraction(Number(p1), Number(q1));
}

function bigGcd(a: bigint, b: bigint): bigint {
  let x = a < 0n ? -a : a;
  let y = b;
  while (y !== 0n) [x, y] = [y, x % y];
  return x;
}
