import { readinessOf, runsAt, type RunResult } from '../drill/record.ts';
import { barName } from '../piece/labels.ts';
import type { Proof } from '../proof/proof.ts';
import { restingAt, sectionsOf } from '../section/sections.ts';
import { pieceSeconds } from '../timeline/query.ts';
import type { PieceToPlan, SeamToPlan } from './plan.ts';
import type { RehearsedSeam } from './progress.ts';
import { spacingOf } from './spacing.ts';

/** From here on a run counts as one of the whole piece. */
const WHOLE_SHARE = 0.9;

interface PlannedPiece {
  readonly pieceId: string;
  readonly runs: readonly RunResult[];
}

/** A piece as a plan looks at it, for its printed tempo: its seams by written bar, each with what the log tells of it. */
export function pieceToPlan(proof: Proof, { pieceId, runs }: PlannedPiece): PieceToPlan {
  const { piece, compiled } = proof;
  const whole = runs.filter(
    ({ place }) => place.kind === 'bars' && place.bars >= WHOLE_SHARE * piece.bars.length,
  );
  return {
    pieceId,
    title: piece.title,
    lengthSeconds: pieceSeconds(compiled.timeline),
    goalPercent: 100,
    practicePercent: null,
    lastWholeAtMs: whole.length > 0 ? Math.max(...whole.map(({ startedAt }) => Date.parse(startedAt))) : null,
    seams: readinessOf(compiled, runs).map(({ barIndex, score, bestPercent }): SeamToPlan => ({
      barIndex,
      name: `into ${barName(compiled.labels, barIndex)}`,
      score,
      sections: playingAt(proof, barIndex),
      bestPercent,
      spacing: spacingOf(runsAt(compiled, runs, barIndex)),
    })),
  };
}

/** Every seam of a piece with the runs that went over it, in written order. */
export function rehearsedSeams(
  { piece, compiled }: Proof,
  runs: readonly RunResult[],
): readonly RehearsedSeam[] {
  return readinessOf(compiled, runs).map(({ barIndex }) => ({
    title: `${piece.title}, into ${barName(compiled.labels, barIndex)}`,
    runs: runsAt(compiled, runs, barIndex),
  }));
}

/** Sections with something to play on either side of a seam; empty where that is everybody. */
function playingAt({ piece }: Proof, barIndex: number): readonly string[] {
  const all = sectionsOf(piece);
  const playing = all.filter((section) =>
    [barIndex - 1, barIndex].some((bar) => bar >= 0 && !restingAt(piece, bar).includes(section)),
  );
  return playing.length === all.length ? [] : playing;
}
