import { compare, equal, toNumber, ZERO, type Fraction } from '../fraction/fraction.ts';
import type { LocalChange } from '../compile/localChange.ts';
import { isSameMeter } from '../meter/text.ts';
import { barLength, type Bar, type Piece } from '../piece/piece.ts';
import { feltBeats, pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { shortestNoteMaybe } from '../rhythm/rhythm.ts';
import { barOf } from '../route/route.ts';
import { rateAt } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';
import { carryAtOneRateMaybe, feltCarryMaybe, type Carry, type FeltSides } from './carry.ts';
import {
  beatSeconds,
  comparedBeats,
  difficultyOf,
  type Difficulty,
  type SeamMeets,
  type SeamSides,
  type SeamTurn,
} from './difficulty.ts';

type SeamChange = 'meter' | 'grouping' | 'pulse' | 'tempo' | 'length' | SeamTurn;

/** What everybody lands on: something changes at the barline itself, not only after it or on the way there. */
export function landsTogether({ changes }: Pick<Seam, 'changes'>): boolean {
  return changes.some((change) => !isTurn(change));
}

function isTurn(change: SeamChange): change is SeamTurn {
  return TURNS.has(change);
}

const TURNS: ReadonlySet<string> = new Set<SeamTurn>(['ramp', 'hold', 'tempo inside', 'open repeat', 'jump']);

/**
 * The boundary before a performed bar at which something changes, or into a bar in which something happens to the time;
 * its first beat is the anchor.
 */
export interface Seam {
  readonly performed: number;
  readonly changes: readonly SeamChange[];
  readonly carry: Carry | null;
  /** Rates in whole notes per minute on either side. */
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly difficulty: Difficulty;
  /** An odd bar is left for bars like those before it: entering and leaving it are one place to rehearse. */
  readonly leavesOdd: boolean;
}

/** Seams of a piece that differs from this one only in the bars of a local change. */
export interface KnownSeams {
  readonly seams: readonly Seam[];
  readonly change: LocalChange;
}

/** All seams in performed order, in time proportional to the bars; those a local change has not touched are kept. */
export function seamsOf(piece: Piece, timeline: Timeline, known?: KnownSeams): readonly Seam[] {
  const seams: Seam[] = [];
  const { barIndex } = timeline.route;
  const isChanged = (bar: number) => !known || (bar >= known.change.from && bar < known.change.to);
  let nextKnown = 0;
  for (let performed = 1; performed < barIndex.length; performed++) {
    const [beforeIndex, afterIndex] = [barIndex[performed - 1] ?? -1, barIndex[performed] ?? -1];
    const before = known?.seams[nextKnown]?.performed === performed ? known.seams[nextKnown++] : undefined;
    const isTouched =
      isChanged(beforeIndex) || isChanged(afterIndex) || isChanged(barIndex[performed - 2] ?? -1);
    const seam = isTouched ? seamBetweenMaybe(piece, timeline, performed) : before;
    if (seam) seams.push(seam);
  }
  return seams;
}

/** The seam that leads into a performed bar, by halving; null where there is none. Seams in performed order. */
export function seamIntoMaybe(seams: readonly Seam[], performed: number): Seam | null {
  let [low, high] = [0, seams.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((seams[middle]?.performed ?? Infinity) < performed) low = middle + 1;
    else high = middle;
  }
  const seam = seams[low];
  return seam?.performed === performed ? seam : null;
}

/** The seam into a performed bar where all land together; null where there is none. */
export function anchorIntoMaybe(seams: readonly Seam[], performed: number): Seam | null {
  const seam = seamIntoMaybe(seams, performed);
  return seam && landsTogether(seam) ? seam : null;
}

function seamBetweenMaybe(piece: Piece, timeline: Timeline, performed: number): Seam | null {
  const { route } = timeline;
  const before = barOf(piece, route, performed - 1);
  const after = barOf(piece, route, performed);
  return seamMaybe(timeline, performed, {
    before,
    after,
    turns: turnsInto(piece, timeline, performed),
    leavesOdd: performed > 1 && leavesOdd(barOf(piece, route, performed - 2), before, after),
  });
}

/** Back from a bar that was a little shorter or longer than those around it. */
function leavesOdd(earlier: Bar, before: Bar, after: Bar): boolean {
  return !isSameMeter(before.meter, after.meter) && isSameMeter(earlier.meter, after.meter);
}

const NO_TURNS: readonly SeamTurn[] = [];

/** What happens to the time in a performed bar, or on the way into it, besides a change at its barline. */
function turnsInto(piece: Piece, { route }: Timeline, performed: number): readonly SeamTurn[] {
  const [from, to] = [route.barIndex[performed - 1] ?? -1, route.barIndex[performed] ?? -1];
  const [before, bar] = [piece.bars[from], piece.bars[to]];
  const turns: SeamTurn[] = [];
  if (bar?.tempoMarks.some(({ ramp }) => ramp?.target)) turns.push('ramp');
  if (
    bar?.tempoMarks.some(
      ({ atWholes, stated, equivalence, returns }) => atWholes.n > 0 && (stated ?? equivalence ?? returns),
    )
  )
    turns.push('tempo inside');
  if (bar?.holds?.length) turns.push('hold');
  if (before?.endsRepeat === 'until cued') turns.push('open repeat');
  else if (to !== from + 1) turns.push('jump');
  return turns.length > 0 ? turns : NO_TURNS;
}

/** Everything a seam is made of besides the rates. */
type SeamMeeting = Pick<SeamSides, 'before' | 'after' | 'turns' | 'leavesOdd'>;

function seamMaybe(timeline: Timeline, performed: number, meeting: SeamMeeting): Seam | null {
  const { before, after, turns } = meeting;
  const changed = changesBetween(before, after);
  const isOneSegment = timeline.segmentAtBar[performed] === timeline.segmentAtBar[performed - 1];
  if (changed.length === 0 && turns.length === 0 && isOneSegment) return null;
  const rateAfter = rateAt(timeline, { performed, atWholes: ZERO });
  const rateBefore =
    isOneSegment && isSteadyAt(timeline, performed) ? rateAfter : rateAtEnd(timeline, performed - 1, before);
  const known = rememberedSeam(meeting, rateBefore, rateAfter);
  if (known !== undefined) return known && { ...known, performed };
  const seam = workedOutSeam(meeting, rateBefore, rateAfter, changed);
  remembered.set(before, { meeting, seam, rateBefore, rateAfter });
  return seam && { ...seam, performed };
}

function isSteadyAt(timeline: Timeline, performed: number): boolean {
  return timeline.segments[timeline.segmentAtBar[performed] ?? 0]?.law.kind === 'steady';
}

function rateAtEnd(timeline: Timeline, performed: number, bar: Bar): Fraction {
  return rateAt(timeline, { performed, atWholes: barLength(bar) });
}

/** A seam as it is wherever its two bars meet at these rates. */
type SeamHere = Omit<Seam, 'performed'>;

function workedOutSeam(
  meeting: SeamMeeting,
  rateBefore: Fraction,
  rateAfter: Fraction,
  changed: readonly SeamChange[],
): SeamHere | null {
  const atBarline: readonly SeamChange[] = isSameRate(rateBefore, rateAfter)
    ? changed
    : [...changed, 'tempo'];
  const changes = [...atBarline, ...meeting.turns];
  if (changes.length === 0) return null;
  const carry = carryOf(meeting.before, meeting.after, rateBefore, rateAfter);
  return {
    changes,
    rateBefore,
    rateAfter,
    carry,
    leavesOdd: meeting.leavesOdd,
    difficulty: difficultyOf({ ...meeting, rateBefore, rateAfter, carry }),
  };
}

interface RememberedSeam {
  readonly meeting: SeamMeeting;
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly seam: SeamHere | null;
}

/** The last seam worked out after a bar: on its other passes, and after an edit elsewhere, it is the same again. */
const remembered = new WeakMap<Bar, RememberedSeam>();

function rememberedSeam(
  { before, after, turns, leavesOdd: leaves }: SeamMeeting,
  rateBefore: Fraction,
  rateAfter: Fraction,
): SeamHere | null | undefined {
  const known = remembered.get(before);
  const isSame =
    known?.meeting.after === after &&
    known.meeting.leavesOdd === leaves &&
    (known.meeting.turns === turns || known.meeting.turns.join() === turns.join()) &&
    equal(known.rateBefore, rateBefore) &&
    equal(known.rateAfter, rateAfter);
  return isSame ? known.seam : undefined;
}

/** The end of a ramp is known to eleven digits; a difference below that is none. */
function isSameRate(a: Fraction, b: Fraction): boolean {
  return equal(a, b) || Math.abs((a.n * b.d) / (a.d * b.n) - 1) < 1e-9;
}

/** A pickup before its full bar, or a cut bar after it, changes nothing by itself. */
function changesBetween(before: Bar, after: Bar): readonly SeamChange[] {
  const isSamePulse = before.pulse === after.pulse;
  const keepsMeter = isSameMeter(before.meter, after.meter);
  if (keepsMeter && isSamePulse) return NO_CHANGES;
  const beatsBefore = pulseOf(before);
  const beatsAfter = pulseOf(after);
  if (keepsMeter && (before.partial || after.partial || isSameGrouping(beatsBefore, beatsAfter)))
    return NO_CHANGES;
  const changes: SeamChange[] = keepsMeter ? [] : ['meter'];
  const isSameLength = compare(barLength(before), barLength(after)) === 0;
  if (!isSameLength && !before.partial && !after.partial) changes.push('length');
  if (isSameLength && !isSameGrouping(beatsBefore, beatsAfter)) changes.push('grouping');
  if (!equal(firstBeat(before).lengthWholes, firstBeat(after).lengthWholes)) changes.push('pulse');
  return changes;
}

const NO_CHANGES: readonly SeamChange[] = [];

function isSameGrouping(a: readonly PulseBeat[], b: readonly PulseBeat[]): boolean {
  return (
    a === b ||
    (a.length === b.length && a.every((beat, index) => b[index] && equal(beat.atWholes, b[index].atWholes)))
  );
}

/** A written equivalence is the carry its players see; else the best one is worked out. */
function carryOf(before: Bar, after: Bar, rateBefore: Fraction, rateAfter: Fraction): Carry | null {
  const written = after.tempoMarks.find((mark) => mark.atWholes.n === 0)?.equivalence;
  if (written) return written;
  if (isSameRate(rateBefore, rateAfter)) return sharedCarry(pulseOf(before), pulseOf(after));
  return feltCarryMaybe(feltSides({ before, after, rateBefore, rateAfter }));
}

/** Parts of a beat that may be played where no notes are known. */
const USUAL_PARTS = 4;

/** The two sides of a seam as players have them. */
export function feltSides(meets: SeamMeets): FeltSides {
  const { before, after, rateBefore, rateAfter } = meets;
  const { was, is } = comparedBeats(meets);
  const shortestIn = (bar: Bar, rate: Fraction) => {
    const note = bar.rhythm ? shortestNoteMaybe(bar.rhythm) : null;
    return note === null ? beatSeconds(bar, rate) / USUAL_PARTS : (60 * note) / toNumber(rate);
  };
  return {
    rateBefore,
    rateAfter,
    beatBefore: was.lengthWholes,
    beatAfter: is.lengthWholes,
    shortestSeconds: Math.min(shortestIn(before, rateBefore), shortestIn(after, rateAfter)),
  };
}

const sharedCarries = new WeakMap<readonly PulseBeat[], WeakMap<readonly PulseBeat[], Carry | null>>();

/** The carry at one rate, worked out once for a pair of pulses. */
function sharedCarry(before: readonly PulseBeat[], after: readonly PulseBeat[]): Carry | null {
  const known = sharedCarries.get(before) ?? new WeakMap<readonly PulseBeat[], Carry | null>();
  sharedCarries.set(before, known);
  const already = known.get(after);
  if (already !== undefined) return already;
  const carry = carryAtOneRateMaybe(before, after);
  known.set(after, carry);
  return carry;
}

function firstBeat(bar: Bar): PulseBeat {
  return feltBeats(bar)[0] as PulseBeat;
}
