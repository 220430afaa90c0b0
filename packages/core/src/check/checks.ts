import type { CompiledTimes } from '../compile/compiledTimes.ts';
import type { LocalChange } from '../compile/localChange.ts';
import { barName } from '../piece/labels.ts';
import type { Piece } from '../piece/piece.ts';
import { answerTo } from './answers.ts';
import { eachBar, type Check, type CheckContext, type Finding, type Found } from './check.ts';
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

/** What is known from a piece that differs from this one only in the bars of a local change. */
export interface KnownFindings {
  readonly findings: readonly ProvedFinding[];
  readonly change: LocalChange;
}

/** Everything the checks find, in reading order. What a local change cannot have touched is not looked at again. */
export function findingsOf(
  piece: Piece,
  times: CompiledTimes,
  labelsOfBars: ReadonlyArray<string | null>,
  known?: KnownFindings,
): readonly ProvedFinding[] {
  const nameOf = (barIndex: number) => barName(labelsOfBars, barIndex);
  const context: CheckContext = { ...times, piece, labels: labelsOfBars, nameOf };
  const proved = CHECKS.flatMap((check) => {
    const kept = known ? keptOf(check, known, piece) : [];
    const found = lookWith(check, context, known?.change);
    return [...kept, ...found.map((finding) => prove(check, finding, piece))];
  });
  return proved.sort((a, b) => a.barIndex - b.barIndex);
}

function prove({ id, severity }: Check, finding: Found, piece: Piece): ProvedFinding {
  return { check: id, severity, answer: answerTo(piece, id, finding.barIndex), ...finding };
}

/** Findings from before that still stand. In and beside the changed bars the answers are asked for again. */
function keptOf(check: Check, { findings, change }: KnownFindings, piece: Piece): ProvedFinding[] {
  if (check.looksAt === 'piece') return [];
  const own = findings.filter((finding) => finding.check === check.id);
  const isNear = ({ barIndex }: ProvedFinding) => barIndex >= change.from - 1 && barIndex <= change.to;
  if (check.looksAt === 'bar') return own.filter((finding) => !isNear(finding));
  return own.map((finding) => (isNear(finding) ? prove(check, withoutAnswer(finding), piece) : finding));
}

function withoutAnswer({
  answer: _answer,
  check: _check,
  severity: _severity,
  ...found
}: ProvedFinding): Found {
  return found;
}

function lookWith(check: Check, context: CheckContext, change: LocalChange | undefined): readonly Found[] {
  if (check.looksAt === 'bar') {
    if (!change) return eachBar(context, check.at);
    return eachBar(
      context,
      check.at,
      Math.max(0, change.from - 1),
      Math.min(context.piece.bars.length, change.to + 1),
    );
  }
  return change && check.looksAt === 'marks' ? [] : check.find(context);
}
