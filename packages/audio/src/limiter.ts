/** −1 dBFS: nothing that leaves the limiter is larger. */
export const CEILING = 10 ** (-1 / 20);
const KNEE = 0.6;
const CURVE_POINTS = 8193;
/** The curve covers input from −RANGE to RANGE; what is larger yet comes out at the ceiling. */
export const LIMITER_RANGE = 4;

/** Straight up to the knee, then bending towards the ceiling, which it never passes. `x` is full scale = 1. */
export function limited(x: number): number {
  const size = x < 0 ? -x : x;
  if (size <= KNEE) return x;
  const room = CEILING - KNEE;
  return Math.sign(x) * (KNEE + room * Math.tanh((size - KNEE) / room));
}

/** The transfer curve as a wave shaper wants it, over input already divided by LIMITER_RANGE. No delay. */
export function limiterCurve(): Float32Array<ArrayBuffer> {
  return Float32Array.from({ length: CURVE_POINTS }, (_, index) =>
    limited(LIMITER_RANGE * ((2 * index) / (CURVE_POINTS - 1) - 1)),
  );
}
