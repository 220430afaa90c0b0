import type { CompiledTimes } from '../compile/compiledTimes.ts';
import type { LocalChange } from '../compile/localChange.ts';
import { barName } from '../piece/labels.ts';
import type { Piece } from '../piece/piece.ts';
import { answerTo } from './answers.ts';
import { eachBar, eachSeam, type Check, type CheckContext, type Finding, type Found } from './check.ts';
import { countOffLikeness, countOffTempo } from './checks/countOffs.ts';
import { holdRelease } from './checks/holds.ts';
import { labels } from './checks/labels.ts';
import { longRest } from './checks/longRest.ts';
import { numberOfParts } from './checks/numberOfParts.ts';
import { notesFillBar } from './checks/notesFillBar.ts';
import { oddBar } from './checks/oddBar.ts';
import { pickupAndLastBar } from './checks/pickupAndLastBar.ts';
import { conductablePulse, playableNotes } from './checks/pulse.ts';
import { pulseFits } from './checks/pulseFits.ts';
import { rehearsalMarks } from './checks/rehearsalMarks.ts';
import { rampAcrossMark, rampTarget } from './checks/ramps.ts';
import { endlessRoute, jumps, repeats, unplayedBars } from './checks/route.ts';
import { seamCarry } from './checks/seamCarry.ts';
import { tempoAgainstEquivalence } from './checks/tempoAgainstEquivalence.ts';
import { unaimableTempo } from './checks/unaimableTempo.ts';

/** Every check, listed once. */
export const CHECKS: readonly Check[] = [
  notesFillBar,
  pulseFits,
  oddBar,
  labels,
  numberOfParts,
  rehearsalMarks,
  tempoAgainstEquivalence,
  unaimableTempo,
  rampTarget,
  rampAcrossMark,
  repeats,
  jumps,
  endlessRoute,
  unplayedBars,
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
  const seamBars = known && barsOfTouchedSeams(times, known.change);
  const proved = CHECKS.flatMap((check) => {
    const kept = known && seamBars ? keptOf(check, { ...known, seamBars }, piece) : [];
    const found = lookWith(check, context, known?.change, seamBars);
    return [...kept, ...found.map((finding) => prove(check, finding, piece))];
  });
  return proved.sort((a, b) => a.barIndex - b.barIndex);
}

function prove({ id, severity }: Check, finding: Found, piece: Piece): ProvedFinding {
  return { check: id, severity, answer: answerTo(piece, id, finding.barIndex), ...finding };
}

/** The written bars before which a seam may have changed: a changed bar stands on one of its sides. */
function barsOfTouchedSeams({ timeline }: CompiledTimes, { from, to }: LocalChange): ReadonlySet<number> {
  const { barIndex } = timeline.route;
  const touched = new Set<number>();
  for (let performed = 0; performed < barIndex.length; performed++) {
    const bar = barIndex[performed] as number;
    if (bar < from || bar >= to) continue;
    touched.add(bar);
    if (performed + 1 < barIndex.length) touched.add(barIndex[performed + 1] as number);
  }
  return touched;
}

interface KnownWithSeams extends KnownFindings {
  readonly seamBars: ReadonlySet<number>;
}

/** Findings from before that still stand. In and beside the changed bars the answers are asked for again. */
function keptOf(check: Check, { findings, change, seamBars }: KnownWithSeams, piece: Piece): ProvedFinding[] {
  if (check.looksAt === 'piece') return [];
  const own = findings.filter((finding) => finding.check === check.id);
  const isNear = ({ barIndex }: ProvedFinding) => barIndex >= change.from - 1 && barIndex <= change.to;
  if (check.looksAt === 'bar') return own.filter((finding) => !isNear(finding));
  const standing = check.looksAt === 'seam' ? own.filter(({ barIndex }) => !seamBars.has(barIndex)) : own;
  return standing.map((finding) => (isNear(finding) ? prove(check, withoutAnswer(finding), piece) : finding));
}

function withoutAnswer({
  answer: _answer,
  check: _check,
  severity: _severity,
  ...found
}: ProvedFinding): Found {
  return found;
}

function lookWith(
  check: Check,
  context: CheckContext,
  change: LocalChange | undefined,
  seamBars: ReadonlySet<number> | undefined,
): readonly Found[] {
  switch (check.looksAt) {
    case 'bar': {
      if (!change) return eachBar(context, check.at);
      const end = Math.min(context.piece.bars.length, change.to + 1);
      return eachBar(context, check.at, Math.max(0, change.from - 1), end);
    }
    case 'seam':
      return eachSeam(context, check.at, (barIndex) => seamBars?.has(barIndex) ?? true);
    case 'marks':
      return change ? [] : check.find(context);
    case 'piece':
      return check.find(context);
  }
}
