import { compare, divide, equal, ONE, type Fraction } from '../fraction/fraction.ts';
import { formatMeter } from '../meter/text.ts';
import { barLength, type Bar, type Piece } from '../piece/piece.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { rateAt } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';
import { carryAcrossRatesMaybe, carryAtOneRateMaybe, type Carry } from './carry.ts';

export type SeamChange = 'meter' | 'grouping' | 'pulse' | 'tempo' | 'length';

/** The boundary before a performed bar at which something changes; its first beat is the anchor. */
export interface Seam {
  readonly performed: number;
  readonly changes: readonly SeamChange[];
  readonly carry: Carry | null;
  /** Rates in whole notes per minute on either side. */
  readonly rateBefore: Fraction;
  readonly rateAfter: Fraction;
}

/** All seams in performed order, in time proportional to the bars. */
export function seamsOf(piece: Piece, timeline: Timeline): readonly Seam[] {
  const seams: Seam[] = [];
  const { barIndex } = timeline.route;
  for (let performed = 1; performed < barIndex.length; performed++) {
    const before = piece.bars[barIndex[performed - 1] ?? -1];
    const after = piece.bars[barIndex[performed] ?? -1];
    if (!before || !after) throw new RangeError(`performed bar ${performed} is not written`);
    const seam = seamMaybe(timeline, performed, before, after);
    if (seam) seams.push(seam);
  }
  return seams;
}

function seamMaybe(timeline: Timeline, performed: number, before: Bar, after: Bar): Seam | null {
  const rateBefore = rateAt(timeline, { performed: performed - 1, atWholes: lastBeat(before).atWholes });
  const rateAfter = rateAt(timeline, { performed, atWholes: { n: 0, d: 1 } });
  const changes = changesBetween(before, after);
  if (!equal(rateBefore, rateAfter)) changes.push('tempo');
  if (changes.length === 0) return null;
  return { performed, changes, rateBefore, rateAfter, carry: carryOf(before, after, rateBefore, rateAfter) };
}

/** A pickup before its full bar, or a cut bar after it, changes nothing by itself. */
function changesBetween(before: Bar, after: Bar): SeamChange[] {
  if (before.meter === after.meter || formatMeter(before.meter) === formatMeter(after.meter)) return [];
  const changes: SeamChange[] = ['meter'];
  const isSameLength = compare(barLength(before), barLength(after)) === 0;
  if (!isSameLength && !before.partial && !after.partial) changes.push('length');
  const [beatsBefore, beatsAfter] = [pulseOf(before), pulseOf(after)];
  if (isSameLength && !isSameGrouping(beatsBefore, beatsAfter)) changes.push('grouping');
  if (!equal(firstBeat(before).lengthWholes, firstBeat(after).lengthWholes)) changes.push('pulse');
  return changes;
}

function isSameGrouping(a: readonly PulseBeat[], b: readonly PulseBeat[]): boolean {
  return (
    a.length === b.length && a.every((beat, index) => b[index] && equal(beat.atWholes, b[index].atWholes))
  );
}

/** A written equivalence is the carry its players see; else the best one is worked out. */
function carryOf(before: Bar, after: Bar, rateBefore: Fraction, rateAfter: Fraction): Carry | null {
  const written = after.tempoMarks.find((mark) => mark.atWholes.n === 0)?.equivalence;
  if (written) return written;
  const ratio = divide(rateBefore, rateAfter);
  if (equal(ratio, ONE)) return carryAtOneRateMaybe(pulseOf(before), pulseOf(after));
  return carryAcrossRatesMaybe(ratio, lastBeat(before).lengthWholes, firstBeat(after).lengthWholes);
}

function firstBeat(bar: Bar): PulseBeat {
  return pulseOf(bar)[0] as PulseBeat;
}

function lastBeat(bar: Bar): PulseBeat {
  return pulseOf(bar).at(-1) as PulseBeat;
}
