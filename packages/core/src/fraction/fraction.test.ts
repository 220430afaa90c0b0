import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import SlowFraction from 'fraction.js';
import {
  add,
  commonMeasure,
  compare,
  divide,
  fraction,
  maybeAdd,
  multiply,
  subtract,
  type Fraction,
} from './fraction.ts';
import { multiplyNearest } from './nearest.ts';
import { formatNumber, parseFraction } from './text.ts';

const anyFraction = fc
  .tuple(fc.integer({ min: -5000, max: 5000 }), fc.integer({ min: 1, max: 5000 }))
  .map(([n, d]) => fraction(n, d));
const slow = ({ n, d }: Fraction) => new SlowFraction(n, d);
const asPair = (value: SlowFraction) => ({ n: Number(value.s * value.n), d: Number(value.d) });

describe('exact fractions', () => {
  test('agree with an arbitrary-precision twin', () => {
    fc.assert(
      fc.property(anyFraction, anyFraction, (a, b) => {
        expect(add(a, b)).toEqual(asPair(slow(a).add(slow(b))));
        expect(subtract(a, b)).toEqual(asPair(slow(a).sub(slow(b))));
        expect(multiply(a, b)).toEqual(asPair(slow(a).mul(slow(b))));
        expect(Math.sign(compare(a, b))).toBe(slow(a).compare(slow(b)));
        if (b.n !== 0) expect(divide(a, b)).toEqual(asPair(slow(a).div(slow(b))));
        if (a.n > 0 && b.n > 0) expect(commonMeasure(a, b)).toEqual(asPair(slow(a).gcd(slow(b))));
      }),
      { seed: 7, numRuns: 2000 },
    );
  });

  test('refuse what they cannot hold', () => {
    expect(() => fraction(1, 0)).toThrow('no value');
    expect(() => fraction(0.5)).toThrow('safe integers');
    const large = fraction(Number.MAX_SAFE_INTEGER);
    expect(() => multiply(large, fraction(3))).toThrow(RangeError);
    expect(maybeAdd(large, fraction(1, 3))).toBeNull();
    expect(
      compare(fraction(9007199254740991, 9007199254740990), fraction(9007199254740990, 9007199254740989)),
    ).toBeLessThan(0);
  });

  test('a product too large to be exact is rounded in its last digits and says so', () => {
    let rate = { value: fraction(21), isExact: true };
    let expected = 21;
    for (let step = 0; step < 60; step++) {
      rate = multiplyNearest(rate.value, fraction(step % 2 ? 7 : 11, step % 2 ? 5 : 13));
      expected *= step % 2 ? 7 / 5 : 11 / 13;
    }
    expect(rate.isExact).toBe(false);
    expect(rate.value.n / rate.value.d / expected).toBeCloseTo(1, 12);
  });
});

describe('numbers in words', () => {
  test.each([
    ['66', 66, 1],
    ['66.5', 133, 2],
    ['66,25', 265, 4],
    ['58 2/3', 176, 3],
    ['3/8', 3, 8],
    ['-3', -3, 1],
  ])('%s', (text, n, d) => {
    expect(parseFraction(text)).toEqual({ ok: true, value: { n, d } });
  });

  test.each(['', 'fast', '1/0', '1e9', '12345678901', '1.2345678', '--2'])('%s is refused', (text) => {
    expect(parseFraction(text).ok).toBe(false);
  });

  test.each([
    [fraction(88), '88'],
    [fraction(133, 2), '66.5'],
    [fraction(176, 3), '58 2/3'],
    [fraction(2, 3), '2/3'],
    [fraction(10000, 123), '≈ 81.30'],
  ])('%j is shown as %s', (value, text) => {
    expect(formatNumber(value)).toBe(text);
  });
});
