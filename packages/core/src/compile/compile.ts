import { clickPlanOf, type ClickPlan } from '../click/clickPlan.ts';
import type { Fraction } from '../fraction/fraction.ts';
import { barLabels } from '../piece/labels.ts';
import type { Piece } from '../piece/piece.ts';
import { seamsOf, type Seam } from '../seam/seam.ts';
import { tempoMapOf, type TempoMap } from '../tempo/tempoMap.ts';
import { timelineOf, type Timeline } from '../timeline/timeline.ts';

/** Everything worked out from a piece. Plain data and typed arrays, so that a worker can hand it over. */
export interface CompiledPiece {
  readonly tempoMap: TempoMap;
  readonly timeline: Timeline;
  readonly clicks: ClickPlan;
  readonly seams: readonly Seam[];
  readonly labels: ReadonlyArray<string | null>;
  /** The performed bar at which each written bar is first heard; −1 where the route leaves it out. */
  readonly firstPerformed: Int32Array;
}

/** piece → route → timeline → plans. Pure; cost is proportional to the bars. `practice` scales every rate: one half is half tempo. */
export function compilePiece(piece: Piece, practice?: Fraction): CompiledPiece {
  const tempoMap = tempoMapOf(piece, practice);
  const timeline = timelineOf(piece, tempoMap);
  return {
    tempoMap,
    timeline,
    clicks: clickPlanOf(piece, timeline),
    seams: seamsOf(piece, timeline),
    labels: barLabels(piece),
    firstPerformed: firstPerformedOf(piece, timeline),
  };
}

function firstPerformedOf(piece: Piece, timeline: Timeline): Int32Array {
  const first = new Int32Array(piece.bars.length).fill(-1);
  timeline.route.barIndex.forEach((written, performed) => {
    if (first[written] === -1) first[written] = performed;
  });
  return first;
}
