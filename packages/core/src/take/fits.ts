import type { Explanation } from './names.ts';
import type { Shape } from './shapes.ts';

/** Shapes whose times differ less than this, in spreads, cannot be told apart. */
const ALIKE_SPREADS = 0.5;

/** A shape as it fits the onsets around a seam. */
export interface Fit {
  readonly shape: Shape;
  readonly size: number;
  readonly score: number;
  readonly shifts: readonly number[];
  readonly onsetOf: Int32Array;
}

/** The likeliest fit under each name, the likeliest of all first. */
export function bestOfEach(fits: readonly Fit[]): readonly Fit[] {
  const best = new Map<Explanation, Fit>();
  for (const fit of fits) {
    const known = best.get(fit.shape.name);
    if (!known || fit.score < known.score) best.set(fit.shape.name, fit);
  }
  return [...best.values()].sort((a, b) => a.score - b.score);
}

/** Where two names mean the same times, the one that says more, and comes first among the explanations of a seam, is told. */
const TOLD_FIRST: readonly Explanation[] = [
  'held',
  'filled-up',
  'cut-short',
  'old-pulse',
  'turned-round',
  'old-small-note',
  'triplet',
  'lost-beat',
  'gained-beat',
  'followed',
  'late',
  'early',
  'settled-in',
  'dragged',
  'rushed',
];

export function told(fits: readonly Fit[], spread: number): readonly Fit[] {
  const rank = ({ shape }: Fit) => TOLD_FIRST.indexOf(shape.name);
  const isAlike = (a: Fit, b: Fit) =>
    a.shifts.every((shift, index) => {
      const other = b.shifts[index] ?? 0;
      return Object.is(shift, other) || Math.abs(shift - other) < ALIKE_SPREADS * spread;
    });
  return fits.filter(
    (fit) =>
      !fits.some((other) => rank(other) < rank(fit) && other.score < fit.score + 6 && isAlike(other, fit)),
  );
}

/** The shift that is farthest from none, with its sign. */
export function farthest(shifts: readonly number[]): number {
  return shifts.reduce((most, shift) => (Math.abs(shift) > Math.abs(most) ? shift : most), 0);
}
