import { FASTEST_PERCENT, SLOWEST_PERCENT } from '../run/settings.ts';
import type { PieceToPlan, SeamToPlan } from './plan.ts';
import { keptShare } from './spacing.ts';

/** Where nothing is known of a seam. */
const FIRST_PERCENT = 60;
const STEP_PERCENT = 5;

/** Nothing of a piece is begun faster than this in its rehearsal. */
export function mostPercent({ goalPercent, practicePercent }: PieceToPlan): number {
  return Math.min(FASTEST_PERCENT, practicePercent ?? goalPercent);
}

/**
 * The tempo, of the printed one, from which to begin at a seam: where it still surely holds. Of the fastest good run so much is
 * left as was not forgotten since; how fast a thing can be played grows with the root of how well it is known.
 */
export function beginPercent(
  { bestPercent, spacing }: Pick<SeamToPlan, 'bestPercent' | 'spacing'>,
  limitPercent: number,
  atMs: number,
): number {
  const holds = bestPercent === null ? FIRST_PERCENT : bestPercent * Math.sqrt(keptShare(spacing, atMs));
  const least = Math.min(FIRST_PERCENT, bestPercent ?? FIRST_PERCENT);
  const percent = Math.min(limitPercent, Math.max(least, SLOWEST_PERCENT, holds));
  return Math.floor(percent / STEP_PERCENT) * STEP_PERCENT;
}
