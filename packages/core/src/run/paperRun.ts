import { barName } from '../piece/labels.ts';
import { runFrom, type RunPlan, type RunSource } from './runPlan.ts';
import type { RunSettings } from './settings.ts';

/**
 * A run from the beginning as on paper, for a file: nobody is there to say go on, so a hold until cued has no length and an
 * open repeat is played once, or as its endings say.
 */
export function paperRun({ piece, compiled }: RunSource, settings: RunSettings): RunPlan {
  const bars = piece.bars.map((bar) =>
    bar.endsRepeat === 'until cued' ? { ...bar, endsRepeat: 2 as const } : bar,
  );
  const { timeline } = compiled;
  const holds = timeline.holds.filter(({ hold }) => hold.length.kind !== 'until cued');
  return runFrom(
    { piece: { ...piece, bars }, compiled: { ...compiled, timeline: { ...timeline, holds } } },
    0,
    settings,
  );
}

/** A named place in a run's sound: the sample nearest to its time. */
export interface RunCue {
  readonly sample: number;
  readonly label: string;
}

/** Where every performed bar begins in a run from the beginning, by its number and rehearsal mark. */
export function barCuesIn(
  { piece, compiled }: RunSource,
  plan: RunPlan,
  sampleRate: number,
): readonly RunCue[] {
  const { route, barStartSeconds } = compiled.timeline;
  return Array.from(route.barIndex, (barIndex, performed) => {
    const start = barStartSeconds[performed] ?? 0;
    const stretch = plan.stretches.findLast(
      ({ kind, fromSeconds }) => kind === 'music' && fromSeconds <= start + 1e-9,
    );
    const runSeconds = stretch ? stretch.runSeconds + (start - stretch.fromSeconds) / stretch.pace : 0;
    const label = [piece.bars[barIndex]?.rehearsalMark, barName(compiled.labels, barIndex)];
    return { sample: Math.round(runSeconds * sampleRate), label: label.filter(Boolean).join(', ') };
  });
}
