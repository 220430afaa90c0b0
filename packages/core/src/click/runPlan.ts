import type { CompiledPiece } from '../compile/compile.ts';
import type { CountOff } from '../countoff/countOff.ts';
import { barStart, firstAtOrAfter, pieceSeconds } from '../timeline/query.ts';
import { clickKind, type ClickKind } from './clickPlan.ts';

/** One sound of a run. Times count from the run's own start, which is the first count-off beat. */
export interface RunClick {
  readonly timeSeconds: number;
  readonly kind: ClickKind;
}

export interface RunOptions {
  readonly hasSubdivisions: boolean;
}

/** One time through the piece from a performed bar: its count-off, then the click to the end. */
export interface RunPlan {
  readonly clicks: readonly RunClick[];
  readonly countOff: CountOff;
  /** Seconds of the piece at which the run enters, after `countOff.lengthSeconds` of the run. */
  readonly entrySeconds: number;
  readonly lengthSeconds: number;
}

/** Joins the count-off before a performed bar to the click from there on. */
export function runPlanOf(
  compiled: CompiledPiece,
  countOff: CountOff,
  performed: number,
  options: RunOptions = { hasSubdivisions: false },
): RunPlan {
  const { clicks, timeline } = compiled;
  const entrySeconds = barStart(timeline, performed);
  const planned: RunClick[] = countOff.beats
    .filter((beat) => beat.sound !== 'silent')
    .map((beat) => ({ timeSeconds: beat.timeSeconds, kind: countOffKind(beat) }));
  const first = firstAtOrAfter(clicks.performed, performed);
  for (let index = first; index < clicks.timeSeconds.length; index++) {
    const kind = clickKind(clicks, index);
    if (kind === 'subdivision' && !options.hasSubdivisions) continue;
    const sinceEntry = (clicks.timeSeconds[index] ?? 0) - entrySeconds;
    planned.push({ timeSeconds: countOff.lengthSeconds + sinceEntry, kind });
  }
  return {
    clicks: planned,
    countOff,
    entrySeconds,
    lengthSeconds: countOff.lengthSeconds + pieceSeconds(timeline) - entrySeconds,
  };
}

function countOffKind({ sound, isDownbeat }: CountOff['beats'][number]): ClickKind {
  if (sound === 'subdivision') return 'subdivision';
  return isDownbeat ? 'countoffDownbeat' : 'countoff';
}

/** Where the run is in the piece at a run time: negative seconds are the count-off. */
export function pieceSecondsOfRun(plan: RunPlan, runSeconds: number): number {
  return plan.entrySeconds + runSeconds - plan.countOff.lengthSeconds;
}
