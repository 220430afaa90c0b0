import type { Page } from '@playwright/test';
import { heardMs } from './sound.ts';

/** Two devices that go together are nearer than this; how near is measured by the bench. */
export const TOGETHER_MS = 20;

/** Fewer sounds in common say nothing. */
export const FEWEST_COMMON = 4;

/**
 * How far each sound of one page is from the nearest of another, in milliseconds; the worst. What one page has handed to its
 * loudspeaker already and the other not yet is no difference. Of the one page only so many of the last are looked at.
 */
export async function worstApart(page: Page, other: Page, last = Infinity): Promise<number> {
  const [ours, theirs] = [(await heardMs(page)).slice(-last), await heardMs(other)];
  const [from, until] = [Math.min(...theirs) - TOGETHER_MS, Math.max(...theirs) + TOGETHER_MS];
  const both = ours.filter((time) => time >= from && time <= until);
  // Nothing in common is as far apart as can be.
  if (both.length < FEWEST_COMMON) return Infinity;
  return Math.max(...both.map((time) => Math.min(...theirs.map((one) => Math.abs(one - time)))));
}
