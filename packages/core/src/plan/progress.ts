import type { RunResult } from '../drill/record.ts';
import { leftOf, READY, spacingOf } from './spacing.ts';

/** A seam with every run that went over it, as it counts for it. */
export interface RehearsedSeam {
  /** "Slack Water, into bar 12" */
  readonly title: string;
  readonly runs: readonly RunResult[];
}

/** How things stood at the end of a day on which something was run. */
export interface DayOfProgress {
  readonly day: string;
  /** Of running; what was said between the runs is not known. */
  readonly minutes: number;
  /** Share of the seams that were ready, from 0 to 1. */
  readonly readyShare: number;
  /** The fastest good tempo of each seam up to then against its goal, at most 1, in the mean. */
  readonly tempoShare: number;
}

/** A run with its day and how long it sounded. */
interface TimedRun {
  readonly startedAt: string;
  readonly lengthSeconds: number;
}

/** How ready a seam is at a moment, from 0 to 1: what it had reached, less what was forgotten since. */
export function readyAt(runs: readonly RunResult[], atMs: number): number {
  return leftOf(spacingOf(runs.filter(({ startedAt }) => Date.parse(startedAt) <= atMs)), atMs);
}

/** Half a year of two rehearsals a week. */
const MOST_DAYS = 52;

/**
 * Day after day, the last fifty-two on which something was run: minutes, readiness and tempo reached.
 *
 * @param dayOf The day of a moment (ISO 8601) by the clock of the place; days sort as texts.
 */
export function progressOf(
  seams: readonly RehearsedSeam[],
  runs: readonly TimedRun[],
  dayOf: (startedAt: string) => string,
): readonly DayOfProgress[] {
  const days = new Map<string, TimedRun[]>();
  for (const run of runs) days.set(dayOf(run.startedAt), [...(days.get(dayOf(run.startedAt)) ?? []), run]);
  // What was never run is neither ready nor has it reached a tempo.
  const begun = seams.filter((seam) => seam.runs.length > 0);
  return [...days]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .slice(-MOST_DAYS)
    .map(([day, ofDay]) => {
      const endMs = Math.max(...ofDay.map(({ startedAt }) => Date.parse(startedAt)));
      const ready = begun.filter((seam) => readyAt(seam.runs, endMs) >= READY).length;
      const reached = begun.reduce((sum, seam) => sum + tempoReached(seam.runs, endMs), 0);
      return {
        day,
        minutes: ofDay.reduce((sum, { lengthSeconds }) => sum + lengthSeconds, 0) / 60,
        readyShare: seams.length > 0 ? ready / seams.length : 0,
        tempoShare: seams.length > 0 ? reached / seams.length : 0,
      };
    });
}

function tempoReached(runs: readonly RunResult[], atMs: number): number {
  const good = runs.filter(
    ({ mark, way = 'play', startedAt }) => mark === 'good' && way === 'play' && Date.parse(startedAt) <= atMs,
  );
  return Math.max(0, ...good.map(({ percent, goalPercent }) => Math.min(1, percent / goalPercent)));
}

const CHANGES = ['ready', 'faster', 'fell back', 'begun'] as const;

/** What became of a seam on the last day on which something was run. */
export interface SeamChange {
  readonly title: string;
  readonly change: (typeof CHANGES)[number];
  /** Fastest good tempo before and with that day, of the printed one; null where there was none. */
  readonly fromPercent: number | null;
  readonly toPercent: number | null;
}

/** Faster by less than so many percent is not worth a word. */
const FASTER_PERCENT = 5;

/** What changed with the last day on which a seam of these was run: what is ready now, is faster, fell back or was begun. */
export function lastChanges(
  seams: readonly RehearsedSeam[],
  dayOf: (startedAt: string) => string,
): readonly SeamChange[] {
  const days = seams.flatMap(({ runs }) => runs.map(({ startedAt }) => dayOf(startedAt)));
  const last = days.reduce((latest, day) => (day > latest ? day : latest), '');
  const changes = seams.flatMap(({ title, runs }): SeamChange[] => {
    const before = runs.filter(({ startedAt }) => dayOf(startedAt) < last);
    if (before.length === runs.length) return [];
    const [fromPercent, toPercent] = [fastestGood(before), fastestGood(runs)];
    const change = changeOf(before, runs, fromPercent, toPercent);
    return change ? [{ title, change, fromPercent, toPercent }] : [];
  });
  return changes.sort((a, b) => CHANGES.indexOf(a.change) - CHANGES.indexOf(b.change));
}

function changeOf(
  before: readonly RunResult[],
  runs: readonly RunResult[],
  fromPercent: number | null,
  toPercent: number | null,
): SeamChange['change'] | null {
  const [was, is] = [spacingOf(before).reached, spacingOf(runs).reached];
  if (is >= READY && was < READY) return 'ready';
  if (before.length === 0) return 'begun';
  if (toPercent !== null && toPercent >= (fromPercent ?? 0) + FASTER_PERCENT) return 'faster';
  return was >= READY && is < READY ? 'fell back' : null;
}

function fastestGood(runs: readonly RunResult[]): number | null {
  const good = runs.filter(({ mark, way = 'play' }) => mark === 'good' && way === 'play');
  return good.length > 0 ? Math.max(...good.map(({ percent }) => percent)) : null;
}
