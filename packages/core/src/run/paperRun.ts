import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { barName } from '../piece/labels.ts';
import { barStart, firstAtOrAfter, performedCount } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import { runFrom } from './planRun.ts';
import { playedSeconds, runSecondsOf, stretchesIn, type RunPlan } from './runPlan.ts';
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

/** A named place in what sounds. */
export interface NamedPlace {
  readonly seconds: number;
  readonly label: string;
}

/** Where every bar begins in a run that ends, as often as it is played, by its number and rehearsal mark. */
export function placesIn(proof: Proof, plan: RunPlan): readonly NamedPlace[] {
  const { labels, timeline } = proof.compiled;
  const places: NamedPlace[] = [];
  for (const stretch of stretchesIn(plan, 0, Infinity)) {
    if (stretch.kind !== 'music') continue;
    const end = playedSeconds(stretch, stretch.runSeconds + stretch.lengthSeconds);
    const last = firstAtOrAfter(timeline.barStartSeconds, end - SAME_MOMENT_SECONDS);
    const first = firstAtOrAfter(timeline.barStartSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
    for (let performed = first; performed < Math.min(last, performedCount(timeline)); performed++) {
      const name = barName(labels, writtenIndex(proof, performed));
      places.push({
        seconds: Math.max(0, runSecondsOf(stretch, barStart(timeline, performed))),
        label: [writtenBar(proof, performed).rehearsalMark, name].filter(Boolean).join(', '),
      });
    }
  }
  return places;
}
