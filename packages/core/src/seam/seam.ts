import { compare, divide, equal, ONE, ZERO, type Fraction } from '../fraction/fraction.ts';
import type { LocalChange } from '../compile/localChange.ts';
import { isSameMeter } from '../meter/text.ts';
import { barLength, type Bar, type Piece } from '../piece/piece.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { barOf } from '../route/route.ts';
import { rateAt } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';
import { carryAcrossRatesMaybe, carryAtOneRateMaybe, type Carry } from './carry.ts';
import { difficultyOf, type Difficulty } from './difficulty.ts';

type SeamChange = 'meter' | 'grouping' | 'pulse' | 'tempo' | 'length';

/** The boundary before a performed bar at which something changes; its first beat is the anchor. */
export interface Seam {
  readonly performed: number;
  readonly changes: readonly SeamChange[];
  readonly carry: Carry | null;
  /** Rates in whole notes per minute on either side. */
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly difficulty: Difficulty;
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
    const isTouched = isChanged(beforeIndex) || isChanged(afterIndex);
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

function seamBetweenMaybe(piece: Piece, timeline: Timeline, performed: number): Seam | null {
  const { route } = timeline;
  return seamMaybe(timeline, performed, barOf(piece, route, performed - 1), barOf(piece, route, performed));
}

function seamMaybe(timeline: Timeline, performed: number, before: Bar, after: Bar): Seam | null {
  const changed = changesBetween(before, after);
  const isOneSegment = timeline.segmentAtBar[performed] === timeline.segmentAtBar[performed - 1];
  if (changed.length === 0 && isOneSegment) return null;
  const rateAfter = rateAt(timeline, { performed, atWholes: ZERO });
  const rateBefore =
    isOneSegment && isSteadyAt(timeline, performed) ? rateAfter : rateAtEnd(timeline, performed - 1, before);
  const known = rememberedSeam(before, after, rateBefore, rateAfter);
  if (known !== undefined) return known && { ...known, performed };
  const seam = workedOutSeam(before, after, rateBefore, rateAfter, changed);
  rememberSeam(before, after, seam, rateBefore, rateAfter);
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
  before: Bar,
  after: Bar,
  rateBefore: Fraction,
  rateAfter: Fraction,
  changed: readonly SeamChange[],
): SeamHere | null {
  const changes: readonly SeamChange[] = isSameRate(rateBefore, rateAfter) ? changed : [...changed, 'tempo'];
  if (changes.length === 0) return null;
  const carry = carryOf(before, after, rateBefore, rateAfter);
  const difficulty = difficultyOf({
    beatsBefore: pulseOf(before),
    beatsAfter: pulseOf(after),
    lengthBefore: barLength(before),
    lengthAfter: barLength(after),
    rateBefore,
    rateAfter,
    carry,
  });
  return { changes, rateBefore, rateAfter, carry, difficulty };
}

interface RememberedSeam {
  readonly after: Bar;
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
  readonly seam: SeamHere | null;
}

/** The last seam worked out after a bar: on its other passes, and after an edit elsewhere, it is the same again. */
const remembered = new WeakMap<Bar, RememberedSeam>();

function rememberedSeam(
  before: Bar,
  after: Bar,
  rateBefore: Fraction,
  rateAfter: Fraction,
): SeamHere | null | undefined {
  const known = remembered.get(before);
  const isSame =
    known?.after === after && equal(known.rateBefore, rateBefore) && equal(known.rateAfter, rateAfter);
  return isSame ? known.seam : undefined;
}

function rememberSeam(
  before: Bar,
  after: Bar,
  seam: SeamHere | null,
  rateBefore: Fraction,
  rateAfter: Fraction,
): void {
  remembered.set(before, { after, rateBefore, rateAfter, seam });
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
  const ratio = divide(rateBefore, rateAfter);
  return equal(ratio, ONE)
    ? null
    : carryAcrossRatesMaybe(ratio, lastBeat(before).lengthWholes, firstBeat(after).lengthWholes);
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
  return pulseOf(bar)[0] as PulseBeat;
}

function lastBeat(bar: Bar): PulseBeat {
  return pulseOf(bar).at(-1) as PulseBeat;
}
