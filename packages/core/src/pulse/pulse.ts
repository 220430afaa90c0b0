import {
  add,
  compare,
  divide,
  equal,
  fraction,
  subtract,
  toNumber,
  ZERO,
  type Fraction,
} from '../fraction/fraction.ts';
import { formatFraction } from '../fraction/text.ts';
import { isGrouped, meterUnit, partCount, type Meter, type MeterPart } from '../meter/meter.ts';
import { chosenBeatsMaybe } from './choice.ts';
import { barLength, barStartInFullBar, type Bar } from '../piece/piece.ts';

export type Stress = 'downbeat' | 'group' | 'beat';

/**
 * One beat of the pulse: what the conductor beats and the click falls on.
 * `parts` is how many equal subdivisions it carries.
 */
export interface PulseBeat {
  readonly atWholes: Fraction;
  readonly lengthWholes: Fraction;
  readonly stress: Stress;
  readonly parts: number;
  /** Its number in the full bar; in a pickup that enters inside a beat, the unit's number. */
  readonly numeral: number;
  /** What is counted on it: its numeral; where a pickup enters inside a unit, "&", "e" or "a". */
  readonly word: string;
}

interface FullBeat {
  readonly lengthWholes: Fraction;
  readonly unitWholes: Fraction;
  readonly stress: Stress;
}

const fullCache = new WeakMap<Meter, readonly PulseBeat[]>();
const barCache = new WeakMap<Bar, readonly PulseBeat[]>();

/**
 * The default pulse of a bar (timing.md, Beats): unit beats for simple meters; dotted beats where the
 * numerator is 6, 9, 12… over an eighth or shorter; the groups where groups are written over an eighth
 * or shorter, while groups over a quarter or longer stress the unit beats. The lengths sum to the bar.
 */
export function pulseOf(bar: Bar): readonly PulseBeat[] {
  return bar.partial || bar.pulse ? remembered(barCache, bar, bar) : remembered(fullCache, bar.meter, bar);
}

/**
 * The beats that a bar is felt in: its own, or of a pickup or cut bar those that it has whole. A bar of none, as a pickup
 * shorter than a beat, goes by the beats of its full bar, as it is counted off.
 */
export function feltBeats(bar: Bar): readonly PulseBeat[] {
  if (!bar.partial) return pulseOf(bar);
  const fullBeats = pulseOf({ ...bar, partial: undefined });
  const start = barStartInFullBar(bar);
  const whole = pulseOf(bar).filter(({ atWholes, lengthWholes }) =>
    fullBeats.some(
      (beat) => equal(beat.atWholes, add(start, atWholes)) && equal(beat.lengthWholes, lengthWholes),
    ),
  );
  return whole.length > 0 ? whole : fullBeats;
}

/** The length most beats have, which is what one follows; of several the shortest. */
export function commonestLength(lengths: readonly Fraction[]): Fraction {
  const countOf = (length: Fraction) => lengths.filter((other) => equal(other, length)).length;
  return lengths.reduce((best, length) => {
    const more = countOf(length) - countOf(best);
    return more > 0 || (more === 0 && compare(length, best) < 0) ? length : best;
  });
}

/** The first of the beats that a bar has most of. */
export function commonestBeat(beats: readonly PulseBeat[]): PulseBeat {
  const known = commonest.get(beats);
  if (known) return known;
  const length = commonestLength(beats.map(({ lengthWholes }) => lengthWholes));
  const found = beats.find(({ lengthWholes }) => equal(lengthWholes, length)) as PulseBeat;
  commonest.set(beats, found);
  return found;
}

const commonest = new WeakMap<readonly PulseBeat[], PulseBeat>();

/** Bars that share a meter share its pulse: the very same array. */
function remembered<Key extends object>(
  cache: WeakMap<Key, readonly PulseBeat[]>,
  key: Key,
  bar: Bar,
): readonly PulseBeat[] {
  const known = cache.get(key);
  if (known) return known;
  const pulse = clipToBar(chosenPulseMaybe(bar) ?? fullPulse(bar.meter), bar);
  cache.set(key, pulse);
  return pulse;
}

function fullPulse(meter: Meter): FullBeat[] {
  const isSum = meter.parts.length > 1;
  return fromDownbeat(meter.parts.flatMap((part) => partPulse(part, isSum)));
}

/** The director's own pulse where the bar has one that fits it. */
function chosenPulseMaybe({ meter, pulse }: Bar): FullBeat[] | null {
  const lengths = pulse && chosenBeatsMaybe(meter, pulse);
  if (!lengths) return null;
  const unitWholes = meterUnit(meter);
  const groupStarts = stressesOf(meter, lengths);
  let at = ZERO;
  return fromDownbeat(
    lengths.map((lengthWholes) => {
      const startsGroup = groupStarts.some((start) => equal(start, at));
      at = add(at, lengthWholes);
      return { lengthWholes, unitWholes, stress: startsGroup ? 'group' : 'beat' };
    }),
  );
}

/**
 * Where a chosen pulse is stressed inside the bar: at the written groups; else, beaten in its units, at what would be its
 * beats (1 and 4 of a bar in six); else, beaten finer than its units, at these.
 */
function stressesOf(meter: Meter, lengths: readonly Fraction[]): Fraction[] {
  const [part] = meter.parts;
  if (!part || meter.parts.length > 1 || isGrouped(part)) return groupStartsOf(meter);
  const count = partCount(part);
  const unit = fraction(1, part.unit);
  const isFiner = lengths.every((length) => compare(length, unit) < 0);
  const isInUnits = lengths.length === count && lengths.every((length) => equal(length, unit));
  const step = isFiner ? 1 : isInUnits && count >= 6 && count % 3 === 0 ? 3 : count;
  return Array.from({ length: Math.ceil(count / step) }, (_, index) => fraction(index * step, part.unit));
}

function groupStartsOf(meter: Meter): Fraction[] {
  let at = ZERO;
  return meter.parts.flatMap((part) =>
    part.groups.map((count) => {
      const start = at;
      at = add(at, fraction(count, part.unit));
      return start;
    }),
  );
}

function fromDownbeat(beats: readonly FullBeat[]): FullBeat[] {
  return beats.map((beat, index) => (index === 0 ? { ...beat, stress: 'downbeat' } : beat));
}

function partPulse(part: MeterPart, isSum: boolean): FullBeat[] {
  const unitWholes = fraction(1, part.unit);
  return beatCounts(part, isSum).map(([count, stress]) => ({
    lengthWholes: fraction(count, part.unit),
    unitWholes,
    stress,
  }));
}

/** Units in each beat of a meter part, with its stress. */
function beatCounts(part: MeterPart, isSum: boolean): Array<readonly [count: number, stress: Stress]> {
  const total = partCount(part);
  const beatsAreGroups = part.unit >= 8;
  if (isGrouped(part) && beatsAreGroups) return part.groups.map((count) => [count, 'group'] as const);
  if (beatsAreGroups && total >= 6 && total % 3 === 0) return repeated(total / 3, 3);
  if (beatsAreGroups && isSum && total <= 4) return [[total, 'group']];
  return part.groups.flatMap((count) => repeated(count, 1));
}

function repeated(times: number, count: number): Array<readonly [count: number, stress: Stress]> {
  return Array.from({ length: times }, (_, index) => [count, index === 0 ? 'group' : 'beat'] as const);
}

/** A pickup takes the last beats of the full bar, a cut bar the first; a beat cut in two keeps its remainder. */
function clipToBar(beats: readonly FullBeat[], bar: Bar): PulseBeat[] {
  const from = barStartInFullBar(bar);
  const to = add(from, barLength(bar));
  const kept: PulseBeat[] = [];
  let start = ZERO;
  let countsUnits = false;
  beats.forEach((beat, index) => {
    const end = add(start, beat.lengthWholes);
    const clippedStart = compare(start, from) < 0 ? from : start;
    const clippedEnd = compare(end, to) > 0 ? to : end;
    if (compare(clippedStart, clippedEnd) < 0) {
      countsUnits ||= compare(start, clippedStart) < 0;
      const numeral = countsUnits ? unitNumeral(clippedStart, beat.unitWholes) : index + 1;
      kept.push(keptBeat(beat, numeral, { start, clippedStart, clippedEnd, from }));
    }
    start = end;
  });
  return kept;
}

interface Clip {
  readonly start: Fraction;
  readonly clippedStart: Fraction;
  readonly clippedEnd: Fraction;
  readonly from: Fraction;
}

function keptBeat(
  beat: FullBeat,
  numeral: number,
  { start, clippedStart, clippedEnd, from }: Clip,
): PulseBeat {
  const lengthWholes = subtract(clippedEnd, clippedStart);
  const entersInside = compare(start, clippedStart) < 0;
  return {
    atWholes: subtract(clippedStart, from),
    lengthWholes,
    stress: entersInside ? 'beat' : beat.stress,
    parts: partsOf(lengthWholes, beat),
    numeral,
    word: (entersInside && WORD_INSIDE[shareOfUnit(clippedStart, beat.unitWholes)]) || String(numeral),
  };
}

/** What is said between two numerals, by the share of the unit that is over. */
const WORD_INSIDE: Readonly<Record<string, string>> = {
  '1/4': 'e',
  '1/3': '&',
  '1/2': '&',
  '2/3': 'a',
  '3/4': 'a',
};

function shareOfUnit(atWholes: Fraction, unitWholes: Fraction): string {
  const units = divide(atWholes, unitWholes);
  return formatFraction(subtract(units, fraction(Math.floor(toNumber(units)))));
}

/** A beat longer than its unit divides into units; a unit beat divides in two; a ragged remainder not at all. */
function partsOf(lengthWholes: Fraction, { unitWholes, lengthWholes: full }: FullBeat): number {
  const isUnitBeat = compare(full, unitWholes) === 0;
  const parts = toNumber(lengthWholes) / toNumber(unitWholes);
  if (isUnitBeat && parts === 1) return 2;
  return Number.isInteger(parts) ? parts : 1;
}

function unitNumeral(atWholes: Fraction, unitWholes: Fraction): number {
  return Math.floor(toNumber(atWholes) / toNumber(unitWholes)) + 1;
}
