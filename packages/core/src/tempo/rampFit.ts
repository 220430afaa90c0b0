import { RAMP_SHAPES, rampSeconds, type RampCurve } from './ramp.ts';

/** How far a tempo had come at a place, both counted from the beginning of what is fitted. */
export interface TempoPoint {
  readonly wholes: number;
  readonly seconds: number;
}

export interface RampFit {
  readonly curve: RampCurve;
  /** The farthest that one of the points is from the curve. */
  readonly worstSeconds: number;
}

const ROUNDS = 12;
/** By so much of itself a rate is changed to see what it does. */
const NUDGE = 1e-6;

/**
 * The ramp that comes closest to some points, in order; the last is its end. Start and end rate of each shape are found by
 * least squares (Gauss–Newton), and the best shape is taken. Null for fewer than three points.
 */
export function fitRampMaybe(points: readonly TempoPoint[]): RampFit | null {
  const last = points.at(-1);
  if (!last || points.length < 3) return null;
  const steps = points.map((point, index) => {
    const before = points[index - 1] ?? { wholes: 0, seconds: 0 };
    return (point.wholes - before.wholes) / (point.seconds - before.seconds);
  });
  const guess = [steps[0] ?? 1, steps.at(-1) ?? 1] as const;
  const fits = RAMP_SHAPES.map((shape) =>
    fitted({ shape, startRate: guess[0], endRate: guess[1], lengthWholes: last.wholes }, points),
  );
  return fits.reduce((best, fit) => (fit.worstSeconds < best.worstSeconds ? fit : best));
}

function fitted(start: RampCurve, points: readonly TempoPoint[]): RampFit {
  let curve = start;
  for (let round = 0; round < ROUNDS; round++) {
    const next = improved(curve, points);
    if (!next) break;
    const isSettled =
      Math.abs(next.startRate - curve.startRate) < 1e-12 && Math.abs(next.endRate - curve.endRate) < 1e-12;
    curve = next;
    if (isSettled) break;
  }
  return { curve, worstSeconds: worstOf(curve, points) };
}

/** One step of Gauss–Newton on both rates, derivatives taken by small differences. */
function improved(curve: RampCurve, points: readonly TempoPoint[]): RampCurve | null {
  const [startStep, endStep] = [curve.startRate * NUDGE, curve.endRate * NUDGE];
  const fromFaster = { ...curve, startRate: curve.startRate + startStep };
  const toFaster = { ...curve, endRate: curve.endRate + endStep };
  let [aa, ab, bb, ra, rb] = [0, 0, 0, 0, 0];
  for (const { wholes, seconds } of points) {
    const now = rampSeconds(curve, wholes);
    const byStart = (rampSeconds(fromFaster, wholes) - now) / startStep;
    const byEnd = (rampSeconds(toFaster, wholes) - now) / endStep;
    const miss = seconds - now;
    aa += byStart * byStart;
    ab += byStart * byEnd;
    bb += byEnd * byEnd;
    ra += byStart * miss;
    rb += byEnd * miss;
  }
  const determinant = aa * bb - ab * ab;
  if (Math.abs(determinant) < 1e-30) return null;
  const startRate = curve.startRate + (ra * bb - rb * ab) / determinant;
  const endRate = curve.endRate + (rb * aa - ra * ab) / determinant;
  return startRate > 0 && endRate > 0 ? { ...curve, startRate, endRate } : null;
}

function worstOf(curve: RampCurve, points: readonly TempoPoint[]): number {
  return Math.max(...points.map(({ wholes, seconds }) => Math.abs(rampSeconds(curve, wholes) - seconds)));
}
