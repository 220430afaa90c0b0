/** How a ramp spreads its change: evenly over the beats, over the seconds, or by an even ratio a beat. */
export const RAMP_SHAPES = ['even per beat', 'even per second', 'even ratio'] as const;
export type RampShape = (typeof RAMP_SHAPES)[number];

/** A ramp ready to be computed with: whole notes per second at either end, and its length in whole notes. */
export interface RampCurve {
  readonly shape: RampShape;
  readonly startRate: number;
  readonly endRate: number;
  readonly lengthWholes: number;
}

/**
 * Seconds from the ramp's start to `x` whole notes into it (timing.md, Ramps). Each shape is written as
 * x/r₀ times a factor near 1, so that nothing is divided by nearly zero as r₁ → r₀.
 */
export function rampSeconds({ shape, startRate, endRate, lengthWholes }: RampCurve, x: number): number {
  switch (shape) {
    case 'even per beat':
      return (x / startRate) * logOver(((endRate - startRate) * x) / (lengthWholes * startRate));
    case 'even per second': {
      const acceleration = (endRate ** 2 - startRate ** 2) / (2 * lengthWholes);
      return (2 * x) / (startRate + Math.sqrt(Math.max(0, startRate ** 2 + 2 * acceleration * x)));
    }
    case 'even ratio':
      return (x / startRate) * expOver((-Math.log(endRate / startRate) * x) / lengthWholes);
  }
}

/** Inverse of `rampSeconds`: whole notes reached after some seconds. */
export function rampWholes({ shape, startRate, endRate, lengthWholes }: RampCurve, seconds: number): number {
  switch (shape) {
    case 'even per beat':
      return startRate * seconds * expOver((seconds * (endRate - startRate)) / lengthWholes);
    case 'even per second': {
      const acceleration = (endRate ** 2 - startRate ** 2) / (2 * lengthWholes);
      return startRate * seconds + (acceleration * seconds ** 2) / 2;
    }
    case 'even ratio':
      return (
        startRate * seconds * logOver((-seconds * startRate * Math.log(endRate / startRate)) / lengthWholes)
      );
  }
}

/** The rate at `x` whole notes into the ramp, in whole notes per second. */
export function rampRate({ shape, startRate, endRate, lengthWholes }: RampCurve, x: number): number {
  const share = x / lengthWholes;
  switch (shape) {
    case 'even per beat':
      return startRate + (endRate - startRate) * share;
    case 'even per second':
      return Math.sqrt(startRate ** 2 + (endRate ** 2 - startRate ** 2) * share);
    case 'even ratio':
      return startRate * (endRate / startRate) ** share;
  }
}

/** ln(1 + u) / u, continued to u = 0. */
function logOver(u: number): number {
  return u === 0 ? 1 : Math.log1p(u) / u;
}

/** (eᵘ − 1) / u, continued to u = 0. */
function expOver(u: number): number {
  return u === 0 ? 1 : Math.expm1(u) / u;
}
