import type { RunResult } from '../drill/record.ts';

export const DAY_MS = 86_400_000;
/** What has just been got right is looked at again after so many days; the longest anything is left alone. */
const FIRST_INTERVAL_DAYS = 2;
const LONGEST_INTERVAL_DAYS = 14;
/** What still held after an interval may be left alone for so many times as long. */
const GROWS = 1.6;
/** Ready enough to be left alone. */
export const READY = 0.8;
/** From here on a day counts as one on which it held. */
const REACHED = 0.75;

/** When a place should be worked on again, as its log has it. */
export interface Spacing {
  /** How long it may be left alone, in days, counted from its last run; 0 where it has not reached its goal, or failed last. */
  readonly intervalDays: number;
  readonly lastAtMs: number | null;
  /** How well it went on its last day, from 0 to 1; 0 where it was never run. */
  readonly reached: number;
}

/**
 * Spaced repetition (Cepeda et al. 2006): what was held comes back at growing intervals, the more so the longer it had been left
 * alone; a day on which it did not makes it due at once. Of a day its fastest good run and how many failed count together.
 */
export function spacingOf(runs: readonly RunResult[]): Spacing {
  const played = runs.filter(({ mark, way }) => mark !== null && (way ?? 'play') === 'play');
  const days = new Map<number, RunResult[]>();
  for (const run of played) {
    const day = Math.floor(Date.parse(run.startedAt) / DAY_MS);
    days.set(day, [...(days.get(day) ?? []), run]);
  }
  let [intervalDays, reached] = [0, 0];
  let before: number | null = null;
  for (const [day, ofDay] of [...days].sort(([a], [b]) => a - b)) {
    const gap = before === null ? 0 : day - before;
    const grown = GROWS * Math.max(gap, intervalDays);
    reached = reachedOn(ofDay);
    intervalDays =
      reached >= REACHED ? Math.min(LONGEST_INTERVAL_DAYS, Math.max(FIRST_INTERVAL_DAYS, grown)) : 0;
    before = day;
  }
  const times = runs.map(({ startedAt }) => Date.parse(startedAt));
  return { intervalDays, lastAtMs: times.length > 0 ? Math.max(...times) : null, reached };
}

/** The fastest good run of a day against its goal, times the share of them that were good: a lucky one says little. */
function reachedOn(runs: readonly RunResult[]): number {
  const good = runs.filter(({ mark }) => mark === 'good');
  const fastest = Math.max(0, ...good.map(({ percent, goalPercent }) => Math.min(1, percent / goalPercent)));
  return (fastest * good.length) / runs.length;
}

/** How much of a place is still there after some days alone: half of it is gone in twice its interval, or in five days. */
export function keptShare({ intervalDays, lastAtMs }: Spacing, atMs: number): number {
  if (lastAtMs === null) return 0;
  const days = Math.max(0, (atMs - lastAtMs) / DAY_MS);
  return 2 ** (-days / Math.max(5, 2 * intervalDays));
}

/** How ready a place is by now, from 0 to 1: what it had reached, less what was forgotten since. */
export function leftOf(spacing: Spacing, atMs: number): number {
  return spacing.reached * keptShare(spacing, atMs);
}

/** Days until it is due: below zero where it is overdue; null where it was never run. */
export function dueInDays({ intervalDays, lastAtMs }: Spacing, atMs: number): number | null {
  return lastAtMs === null ? null : intervalDays - (atMs - lastAtMs) / DAY_MS;
}
