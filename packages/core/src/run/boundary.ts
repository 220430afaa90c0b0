import { clickKind } from '../click/clickPlan.ts';
import type { CompiledPiece } from '../compile/compile.ts';
import type { Proof } from '../proof/proof.ts';
import { barStart, firstAtOrAfter, performedCount } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import { isPlayedIn, runSecondsOf, stretchesIn, type RunPlan, type RunStretch } from './runPlan.ts';

/** Where a plan may be changed: a moment of the run, and what is played there. */
export interface RunBoundary {
  readonly runSeconds: number;
  readonly stretch: RunStretch;
  /** Seconds of what the stretch plays. */
  readonly atSeconds: number;
}

/** The next beat or bar of a run that begins after a moment of it; null where it waits, or ends before. */
export function nextBoundaryMaybe(
  { compiled }: Proof,
  plan: RunPlan,
  afterRunSeconds: number,
  every: 'beat' | 'bar',
): RunBoundary | null {
  for (const stretch of stretchesIn(plan, afterRunSeconds, Infinity)) {
    for (const atSeconds of boundaryTimes(compiled, stretch, every)) {
      const runSeconds = runSecondsOf(stretch, atSeconds);
      if (runSeconds > afterRunSeconds) return { runSeconds, stretch, atSeconds };
    }
  }
  return null;
}

/** Where beats, or bars, begin in what a stretch plays, its own start among them. */
function* boundaryTimes(
  { clicks, timeline }: CompiledPiece,
  stretch: RunStretch,
  every: 'beat' | 'bar',
): Iterable<number> {
  const end = stretch.fromSeconds + stretch.lengthSeconds * stretch.pace - SAME_MOMENT_SECONDS;
  if (stretch.kind === 'countOff' && stretch.countOff) {
    for (const { timeSeconds, isDownbeat, sound } of stretch.countOff.beats)
      if (isPlayedIn(stretch, timeSeconds) && sound !== 'subdivision' && (every === 'beat' || isDownbeat))
        yield timeSeconds;
  } else if (stretch.kind === 'music' && every === 'bar') {
    const from = firstAtOrAfter(timeline.barStartSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
    for (let performed = from; performed < performedCount(timeline); performed++) {
      const start = barStart(timeline, performed);
      if (start > end) return;
      yield start;
    }
  } else if (stretch.kind === 'music') {
    const from = firstAtOrAfter(clicks.timeSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
    for (let index = from; index < clicks.timeSeconds.length; index++) {
      const time = clicks.timeSeconds[index] as number;
      if (time > end) return;
      if (clickKind(clicks, index) !== 'subdivision') yield time;
    }
  }
}
