import { clickPlanOf, type ClickPlan } from '../click/clickPlan.ts';
import type { Fraction } from '../fraction/fraction.ts';
import { barLabels } from '../piece/labels.ts';
import type { Piece } from '../piece/piece.ts';
import { findingsOf, type ProvedFinding } from '../check/checks.ts';
import { seamsOf } from '../seam/seam.ts';
import { tempoMapOf } from '../tempo/tempoMap.ts';
import type { CompiledTimes } from './compiledTimes.ts';
import { localChangeMaybe, type LocalChange } from './localChange.ts';
import type { Proof } from '../proof/proof.ts';
import { timelineAfter, timelineOf, type Timeline } from '../timeline/timeline.ts';

/** Everything worked out from a piece. Plain data and typed arrays, so that a worker can hand it over. */
export interface CompiledPiece extends CompiledTimes {
  readonly clicks: ClickPlan;
  readonly findings: readonly ProvedFinding[];
  readonly labels: ReadonlyArray<string | null>;
  /** The performed bar at which each written bar is first heard; −1 where the route leaves it out. */
  readonly firstPerformed: Int32Array;
}

/** piece → route → timeline → plans. Pure; cost is proportional to the bars. `practice` scales every rate: one half is half tempo. */
export function compilePiece(piece: Piece, practice?: Fraction): CompiledPiece {
  const tempoMap = tempoMapOf(piece, practice);
  const timeline = timelineOf(piece, tempoMap);
  const labels = barLabels(piece);
  const times: CompiledTimes = { tempoMap, timeline, seams: seamsOf(piece, timeline) };
  return {
    ...times,
    clicks: clickPlanOf(piece, timeline),
    findings: findingsOf(piece, times, labels),
    labels,
    firstPerformed: firstPerformedOf(piece, timeline),
  };
}

/** A piece with what is worked out from it. */
export function proofOf(piece: Piece): Proof {
  return { piece, compiled: compilePiece(piece) };
}

/**
 * The same as `compilePiece(piece)`, to the last digit, using what was compiled before the last edit where that edit
 * changed a few bars and nothing that reaches beyond them.
 */
export function compileAfter(before: Proof, piece: Piece): CompiledPiece {
  const { tempoMap, timeline: was, labels, firstPerformed } = before.compiled;
  const change = localChangeMaybe(before.piece, piece, tempoMap);
  if (!change) return compilePiece(piece);
  const untilPerformed = firstHeard(was.route.barIndex, change);
  const timeline = timelineAfter(piece, tempoMap, was, untilPerformed);
  const seams = seamsOf(piece, timeline, { seams: before.compiled.seams, change });
  const times: CompiledTimes = { tempoMap, timeline, seams };
  const findings = findingsOf(piece, times, labels, { findings: before.compiled.findings, change });
  const clicks = clickPlanOf(piece, timeline, { clicks: before.compiled.clicks, untilPerformed });
  return { ...times, clicks, findings, labels, firstPerformed };
}

/** The performed bar in which a change is first heard; the end where it never is. */
function firstHeard(barIndex: Int32Array, { from, to }: LocalChange): number {
  const performed = barIndex.findIndex((bar) => bar >= from && bar < to);
  return performed < 0 ? barIndex.length : performed;
}

function firstPerformedOf(piece: Piece, timeline: Timeline): Int32Array {
  const first = new Int32Array(piece.bars.length).fill(-1);
  timeline.route.barIndex.forEach((written, performed) => {
    if (first[written] === -1) first[written] = performed;
  });
  return first;
}
