import type { CompiledPiece } from '../compile/compile.ts';
import type { ClickKind } from '../click/clickPlan.ts';
import { countOffFor, type CountOff } from '../countoff/countOff.ts';
import type { Piece } from '../piece/piece.ts';
import { barStart, lastAtOrBefore } from '../timeline/query.ts';
import type { RunBoundary } from './boundary.ts';
import { openRepeats, wayOut } from './openRepeats.ts';
import { RunPlanner } from './runPlanner.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

/** One sound of a run. Times count from the run's own start, which is the first count-off beat. */
export interface RunClick {
  readonly timeSeconds: number;
  readonly kind: ClickKind;
  /** MIDI note of a beat that is sung or played on a tone instead of clicked. */
  readonly pitch?: number;
  /** What is said instead of the click, if it can be said before the next beat, so many seconds on. */
  readonly word?: string;
  readonly roomSeconds?: number;
}

/**
 * A stretch of a run in which time runs evenly against what it plays: from `fromSeconds` of the piece (or of its
 * count-off) on, `pace` seconds of it in every second. While it waits or holds, the piece stands still.
 */
export interface RunStretch {
  readonly kind: 'countOff' | 'music' | 'hold' | 'waiting' | 'cue';
  readonly runSeconds: number;
  /** Infinite while waiting for a cue. */
  readonly lengthSeconds: number;
  readonly fromSeconds: number;
  readonly pace: number;
  readonly countOff: CountOff | null;
}

/** A run from its count-off on: every click, and what is played when. */
export interface RunPlan {
  readonly clicks: readonly RunClick[];
  readonly stretches: readonly RunStretch[];
  readonly countOff: CountOff;
  /** Seconds of the piece at which the run enters, after the count-off. */
  readonly entrySeconds: number;
  /** Infinite where the run waits for a cue. */
  readonly lengthSeconds: number;
  /** Open repeats of which it was said: go on. By the performed bar they start at. */
  readonly decided: readonly number[];
}

/** What a run is planned from. */
export interface RunSource {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
}

/** A loop or an open repeat is planned for so long; a run is never longer. */
export const MOST_RUN_SECONDS = 3600;

/** Plans a run that is counted into a performed bar and goes on to the end, round its loop, or to where it must wait. */
export function runFrom(
  source: RunSource,
  performed: number,
  settings: RunSettings = PLAIN_RUN,
  countOff: CountOff = countOffFor(source.piece, source.compiled.timeline, performed),
): RunPlan {
  const entrySeconds = barStart(source.compiled.timeline, performed);
  const start: RunPlan = { clicks: [], stretches: [], countOff, entrySeconds, lengthSeconds: 0, decided: [] };
  const planner = new RunPlanner(source, settings, start);
  planner.countOff(countOff);
  planner.playFrom(entrySeconds);
  return planner.plan();
}

/** A plain run with a count-off that was made before. */
export function runPlanOf(source: RunSource, countOff: CountOff, performed: number): RunPlan {
  return runFrom(source, performed, PLAIN_RUN, countOff);
}

/** The same run up to a boundary, and from there on as it is wanted now. */
export function changedRun(
  source: RunSource,
  plan: RunPlan,
  settings: RunSettings,
  boundary: RunBoundary,
): RunPlan {
  const planner = new RunPlanner(source, settings, upTo(plan, boundary.runSeconds));
  const { stretch, atSeconds } = boundary;
  if (stretch.countOff && stretch.kind === 'countOff') {
    planner.countOff(stretch.countOff, atSeconds);
    planner.playFrom(entryAfter(plan, stretch));
  } else planner.playFrom(atSeconds);
  return planner.plan();
}

/**
 * Out of the open repeat that is going round, from a bar on: this pass becomes the last one, with its ending where there
 * is one. Null where nothing goes round.
 */
export function goneOnRun(
  source: RunSource,
  plan: RunPlan,
  settings: RunSettings,
  bar: RunBoundary,
): RunPlan | null {
  const { timeline } = source.compiled;
  const performed = lastAtOrBefore(timeline.barStartSeconds, bar.atSeconds + SAME_MOMENT_SECONDS);
  const open = openRepeats(source.piece, timeline.route).find(
    ({ round }) => performed >= round.from && performed < round.to && !plan.decided.includes(round.from),
  );
  if (!open) return null;
  const decided = { ...upTo(plan, bar.runSeconds), decided: [...plan.decided, open.round.from] };
  const planner = new RunPlanner(source, settings, decided);
  planner.playFrom(barStart(timeline, wayOut(open, timeline.route, performed)));
  return planner.plan();
}

/**
 * A run that waits goes on: one beat of preparation from the cue, then the music. Null where nothing waits at that moment.
 */
export function cuedRun(
  source: RunSource,
  plan: RunPlan,
  settings: RunSettings,
  cueRunSeconds: number,
): RunPlan | null {
  const waiting = plan.stretches.at(-1);
  if (waiting?.kind !== 'waiting' || cueRunSeconds < waiting.runSeconds) return null;
  const planner = new RunPlanner(source, settings, upTo(plan, cueRunSeconds));
  planner.cue(waiting.fromSeconds);
  planner.playFrom(waiting.fromSeconds, true);
  return planner.plan();
}

/** The run ends at a boundary. */
export function endedRun(plan: RunPlan, { runSeconds }: RunBoundary): RunPlan {
  return upTo(plan, runSeconds);
}

function upTo(plan: RunPlan, runSeconds: number): RunPlan {
  const stretches = plan.stretches
    .filter((stretch) => stretch.runSeconds < runSeconds)
    .map((stretch) => ({
      ...stretch,
      lengthSeconds: Math.min(stretch.lengthSeconds, runSeconds - stretch.runSeconds),
    }));
  const clicks = plan.clicks.filter(({ timeSeconds }) => timeSeconds < runSeconds - SAME_MOMENT_SECONDS);
  return { ...plan, clicks, stretches, lengthSeconds: runSeconds };
}

/** Two times closer than this are one moment. */
export const SAME_MOMENT_SECONDS = 1e-7;

/** Seconds of the piece at which the music enters after a count-off of a plan. */
function entryAfter(plan: RunPlan, countOff: RunStretch): number {
  const next = plan.stretches.find(({ runSeconds }) => runSeconds > countOff.runSeconds);
  return next?.fromSeconds ?? plan.entrySeconds;
}

/** The stretch that a moment of the run lies in; null after its end. Before the start it is the first one. */
export function stretchAtMaybe({ stretches, lengthSeconds }: RunPlan, runSeconds: number): RunStretch | null {
  if (runSeconds >= lengthSeconds) return null;
  return stretches.findLast((stretch) => stretch.runSeconds <= runSeconds) ?? stretches[0] ?? null;
}

/** Seconds of what a stretch plays, at a moment of the run. */
export function playedSeconds(stretch: RunStretch, runSeconds: number): number {
  return (
    stretch.fromSeconds + (runSeconds - stretch.runSeconds) * (stretch.kind === 'hold' ? 0 : stretch.pace)
  );
}
