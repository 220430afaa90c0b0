import { writtenBar, type Proof } from '../proof/proof.ts';
import { barName } from '../piece/labels.ts';
import { barStart } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import { runFrom } from './planRun.ts';
import { runSecondsOf, type RunPlan } from './runPlan.ts';
import type { RunSettings } from './settings.ts';

/**
 * A run from a performed bar on as on paper, for a file: nobody is there to say go on, so a hold until cued has no length and an
 * open repeat is played once, or as its endings say.
 */
export function paperRun({ piece, compiled }: Proof, settings: RunSettings, performed = 0): RunPlan {
  const bars = piece.bars.map((bar) =>
    bar.endsRepeat === 'until cued' ? { ...bar, endsRepeat: 2 as const } : bar,
  );
  const { timeline } = compiled;
  const holds = timeline.holds.filter(({ hold }) => hold.length.kind !== 'until cued');
  return runFrom(
    { piece: { ...piece, bars }, compiled: { ...compiled, timeline: { ...timeline, holds } } },
    performed,
    settings,
  );
}

/** A named place in a run's sound: the sample nearest to its time. */
export interface RunCue {
  readonly sample: number;
  readonly label: string;
}

/** Where every performed bar begins in a run from the beginning, by its number and rehearsal mark. */
export function barCuesIn(proof: Proof, plan: RunPlan, sampleRate: number): readonly RunCue[] {
  const { labels, timeline } = proof.compiled;
  return Array.from(timeline.route.barIndex, (barIndex, performed) => {
    const start = barStart(timeline, performed);
    const stretch = plan.stretches.findLast(
      ({ kind, fromSeconds }) => kind === 'music' && fromSeconds <= start + SAME_MOMENT_SECONDS,
    );
    const runSeconds = stretch ? runSecondsOf(stretch, start) : 0;
    const label = [writtenBar(proof, performed).rehearsalMark, barName(labels, barIndex)];
    return { sample: Math.round(runSeconds * sampleRate), label: label.filter(Boolean).join(', ') };
  });
}
