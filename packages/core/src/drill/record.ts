import type { CompiledPiece } from '../compile/compile.ts';
import { barOfPlaceMaybe, goesOver, type DrillPlace } from './place.ts';
import type { Mark } from './ladder.ts';
import type { TakeSeam } from '../take/takeRecord.ts';
import type { DrillWay } from './ways.ts';

interface MeasuredTake {
  readonly seams: readonly Pick<TakeSeam, 'barIndex' | 'explanation'>[];
}

/** What a logged run tells of how well a place goes. */
export interface RunResult {
  readonly place: DrillPlace;
  /** Of the printed tempo, and what was aimed at. */
  readonly percent: number;
  readonly goalPercent: number;
  readonly mark: Mark | null;
  /** On the instruments where nothing is said. */
  readonly way?: DrillWay;
  /** What was measured of it where somebody played along. */
  readonly take?: MeasuredTake | null;
  /** The same of sections that played along at their stands. */
  readonly sectionTakes?: readonly { readonly take: MeasuredTake }[];
  /** ISO 8601. */
  readonly startedAt: string;
}

/** How a seam stands after the runs so far. */
export interface SeamRecord {
  readonly runs: number;
  /** ISO 8601 time of the last one; null where there was none. */
  readonly lastAt: string | null;
  /** Fastest run marked good; null where there was none. */
  readonly bestPercent: number | null;
  /** From 0 to 1; null where it was never marked. */
  readonly readiness: number | null;
}

/** Of the last so many marked runs. */
const RUNS_LOOKED_AT = 5;

/**
 * Readiness: of the last five marked runs, the fastest good one against its goal (at most 1), times the share of them that
 * were good. A run is looked at in order of time, however it comes in. What was spoken, clapped or stepped prepares, and is
 * counted as work, but says nothing of how ready the place is on the instruments.
 */
export function seamRecord(runs: readonly RunResult[]): SeamRecord {
  const inOrder = [...runs].sort((a, b) => (a.startedAt < b.startedAt ? -1 : 1));
  const marked = inOrder.filter(({ mark, way = 'play' }) => mark !== null && way === 'play');
  const recent = marked.slice(-RUNS_LOOKED_AT);
  const good = recent.filter(({ mark }) => mark === 'good');
  const reached = Math.max(0, ...good.map(({ percent, goalPercent }) => Math.min(1, percent / goalPercent)));
  const allGood = marked.filter(({ mark }) => mark === 'good');
  return {
    runs: runs.length,
    lastAt: inOrder.at(-1)?.startedAt ?? null,
    bestPercent: allGood.length > 0 ? Math.max(...allGood.map(({ percent }) => percent)) : null,
    readiness: recent.length > 0 ? (reached * good.length) / recent.length : null,
  };
}

/** The runs that went over the seam before a written bar. */
export function runsOver<Run extends RunResult>(
  { labels }: Pick<CompiledPiece, 'labels'>,
  runs: readonly Run[],
  seamBar: number,
): readonly Run[] {
  return runs.filter(({ place }) => goesOver(labels, place, seamBar));
}

/**
 * A run as it counts for a seam: where somebody played along, by what was measured there, whatever was said of the whole; good
 * where the seam was held more often than not, by all sections together.
 */
function asMeasured({ labels }: Pick<CompiledPiece, 'labels'>, run: RunResult, seamBar: number): RunResult {
  // Bars may have been put in before it since.
  const moved = (barOfPlaceMaybe(labels, run.place) ?? run.place.barIndex) - run.place.barIndex;
  const takes = [...(run.take ? [run.take] : []), ...(run.sectionTakes ?? []).map(({ take }) => take)];
  const passings = takes
    .flatMap(({ seams }) => seams)
    .filter(({ barIndex, explanation }) => barIndex + moved === seamBar && explanation !== 'too-few');
  if (passings.length === 0) return run;
  const held = passings.filter(({ explanation }) => explanation === 'held').length;
  return { ...run, mark: 2 * held > passings.length ? 'good' : 'again' };
}

/** The runs that went over the seam before a written bar, as they count for it. */
export function runsAt(
  compiled: Pick<CompiledPiece, 'labels'>,
  runs: readonly RunResult[],
  seamBar: number,
): readonly RunResult[] {
  return runsOver(compiled, runs, seamBar).map((run) => asMeasured(compiled, run, seamBar));
}

/** A seam of the piece with how ready it is. */
export interface SeamReadiness extends SeamRecord {
  readonly barIndex: number;
  readonly score: number;
}

/** Every seam by written bar, each once, in written order, with its record. */
export function readinessOf(compiled: CompiledPiece, runs: readonly RunResult[]): readonly SeamReadiness[] {
  const byBar = new Map<number, number>();
  for (const { performed, difficulty } of compiled.seams) {
    const bar = compiled.timeline.route.barIndex[performed] ?? 0;
    if (!byBar.has(bar)) byBar.set(bar, difficulty.score);
  }
  return [...byBar]
    .sort(([a], [b]) => a - b)
    .map(([barIndex, score]) => ({
      barIndex,
      score,
      ...seamRecord(runsAt(compiled, runs, barIndex)),
    }));
}

/** The readiness of a whole piece from 0 to 1: its seams weighed by how hard they are; null where there is none. */
export function pieceReadinessMaybe(seams: readonly SeamReadiness[]): number | null {
  const weight = seams.reduce((total, { score }) => total + score, 0);
  if (weight === 0) return null;
  return seams.reduce((total, { score, readiness }) => total + score * (readiness ?? 0), 0) / weight;
}

const REST_AFTER_SECONDS = 12 * 60;
const BREAK_SECONDS = 2 * 60;

/** A stretch of drilling: when it began and how long it sounded, in seconds. */
export interface Drilled {
  readonly startSeconds: number;
  readonly lengthSeconds: number;
}

/** Whether it is time to rest: twelve minutes sounded without a break of two. Stretches in order of time. */
export function isRestDue(drilled: readonly Drilled[]): boolean {
  let sounded = 0;
  let end = -Infinity;
  for (const { startSeconds, lengthSeconds } of drilled) {
    if (startSeconds - end >= BREAK_SECONDS) sounded = 0;
    sounded += lengthSeconds;
    end = startSeconds + lengthSeconds;
  }
  return sounded >= REST_AFTER_SECONDS;
}
