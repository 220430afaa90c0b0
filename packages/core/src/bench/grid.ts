import { commonMeasure, divide, multiply, type Fraction } from '../fraction/fraction.ts';

/** Least length that both divide a whole number of times, in whole notes. */
function leastCommonLength(a: Fraction, b: Fraction): Fraction {
  return divide(multiply(a, b), commonMeasure(a, b));
}

/** After how many bars of length `bar` something of length `cycle`, repeated, begins on a barline again (timing.md, Grids). */
export function landsAfterBars(cycle: Fraction, bar: Fraction): number {
  const bars = divide(leastCommonLength(cycle, bar), bar);
  return bars.n / bars.d;
}
