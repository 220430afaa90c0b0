import type { CompiledTimes } from '../compile/compiledTimes.ts';
import { barName } from '../piece/labels.ts';
import type { Piece } from '../piece/piece.ts';
import { answerTo } from './answers.ts';
import type { Check, CheckContext, Finding } from './check.ts';
import { countOffLikeness, countOffTempo } from './checks/countOffs.ts';
import { holdRelease } from './checks/holds.ts';
import { labels } from './checks/labels.ts';
import { longRest } from './checks/longRest.ts';
import { notesFillBar } from './checks/notesFillBar.ts';
import { oddBar } from './checks/oddBar.ts';
import { pickupAndLastBar } from './checks/pickupAndLastBar.ts';
import { conductablePulse, playableNotes } from './checks/pulse.ts';
import { pulseFits } from './checks/pulseFits.ts';
import { rampAcrossMark, rampTarget } from './checks/ramps.ts';
import { endlessRoute, jumps, repeats } from './checks/route.ts';
import { seamCarry } from './checks/seamCarry.ts';
import { tempoAgainstEquivalence } from './checks/tempoAgainstEquivalence.ts';
import { unaimableTempo } from './checks/unaimableTempo.ts';

/** Every check, listed once. */
export const CHECKS: readonly Check[] = [
  notesFillBar,
  pulseFits,
  oddBar,
  labels,
  tempoAgainstEquivalence,
  unaimableTempo,
  rampTarget,
  rampAcrossMark,
  repeats,
  jumps,
  endlessRoute,
  pickupAndLastBar,
  conductablePulse,
  playableNotes,
  countOffTempo,
  countOffLikeness,
  holdRelease,
  seamCarry,
  longRest,
];

/** A finding with the director's answer to it, where there is one that still holds. */
export interface ProvedFinding extends Finding {
  readonly answer: string | null;
}

/** Everything the checks find, in reading order. */
export function findingsOf(
  piece: Piece,
  times: CompiledTimes,
  labelsOfBars: ReadonlyArray<string | null>,
): readonly ProvedFinding[] {
  const nameOf = (barIndex: number) => barName(labelsOfBars, barIndex);
  const context: CheckContext = { ...times, piece, labels: labelsOfBars, nameOf };
  const found = CHECKS.flatMap(({ id, severity, find }) =>
    find(context).map((finding) => ({
      check: id,
      severity,
      answer: answerTo(piece, id, finding.barIndex),
      ...finding,
    })),
  );
  return found.sort((a, b) => a.barIndex - b.barIndex);
}
