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

/** What all fits under one name say together, by the likeliest of them; the likeliest name first. */
export function bestOfEach(fits: readonly Fit[]): readonly Fit[] {
  const named = new Map<Explanation, Fit[]>();
  for (const fit of fits) {
    const same = named.get(fit.shape.name);
    if (same) same.push(fit);
    else named.set(fit.shape.name, [fit]);
  }
  return [...named.values()]
    .map((same) => {
      const best = same.reduce((least, fit) => (fit.score < least.score ? fit : least));
      const sum = same.reduce((all, { score }) => all + Math.exp((best.score - score) / 2), 0);
      return { ...best, score: best.score - 2 * Math.log(sum) };
    })
    .sort((a, b) => a.score - b.score);
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
  // Held up to somewhere, and then off by whatever it is, says less than any name that gives how much.
  const isAlike = (a: Fit, b: Fit) =>
    !(a.shape.name === 'held' && a.shape.free) &&
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
