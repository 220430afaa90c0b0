import { divide, equal, fraction, sum, toNumber, type Fraction } from '../fraction/fraction.ts';
import { formatFraction } from '../fraction/text.ts';
import { meterLength, meterUnit, type Meter } from '../meter/meter.ts';
import type { Bar, PulseChoice } from '../piece/piece.ts';
import { noteValueLength } from '../value/noteValue.ts';
import { ofAWhole } from '../value/text.ts';

/** Lengths of the beats a choice makes of a full bar, in whole notes; null where the choice does not fit it. */
export function chosenBeatsMaybe(meter: Meter, choice: PulseChoice): readonly Fraction[] | null {
  if (choice.kind === 'in') return beatsInMaybe(meter, choice.beats);
  const lengths = choice.values.map(noteValueLength);
  return equal(sum(lengths), meterLength(meter)) ? lengths : null;
}

/** Why a choice does not fit a bar, in words; null where it does. */
export function pulseChoiceProblemMaybe(bar: Pick<Bar, 'meter'>, choice: PulseChoice): string | null {
  if (chosenBeatsMaybe(bar.meter, choice)) return null;
  if (choice.kind === 'in') {
    const possible = beatNumbers(bar.meter).join(', ');
    return `This bar cannot be beaten in ${choice.beats}: it can be in ${possible}`;
  }
  const length = ofAWhole(sum(choice.values.map(noteValueLength)));
  return `These beats make ${length}, the bar has ${formatFraction(meterLength(bar.meter))}`;
}

/** Every number of beats a bar of this meter can be beaten in, fewest first. */
export function beatNumbers(meter: Meter): readonly number[] {
  const known = numbersOf.get(meter);
  if (known) return known;
  const numbers = workedOutNumbers(meter);
  numbersOf.set(meter, numbers);
  return numbers;
}

const numbersOf = new WeakMap<Meter, readonly number[]>();

function workedOutNumbers(meter: Meter): readonly number[] {
  const most = toNumber(divide(meterLength(meter), meterUnit(meter)));
  const numbers: number[] = [];
  for (let beats = 1; beats <= most; beats++) if (beatsInMaybe(meter, beats)) numbers.push(beats);
  return numbers;
}

/**
 * "In n": the written groups where there are n of them; equal beats of whole units where n divides the bar so;
 * else neighbouring groups taken together as evenly as they go.
 */
function beatsInMaybe(meter: Meter, beats: number): readonly Fraction[] | null {
  const groups = meter.parts.flatMap((part) => part.groups.map((count) => fraction(count, part.unit)));
  if (groups.length === beats && beats > 1) return groups;
  const units = toNumber(divide(meterLength(meter), meterUnit(meter)));
  const beat = divide(meterLength(meter), fraction(beats));
  if (units % beats === 0 && (beats === 1 || isEvenSplit(groups, beat)))
    return Array.from({ length: beats }, () => beat);
  return beats > 1 && beats < groups.length ? joinedGroups(groups, beats) : null;
}

/** A grouped bar is not cut across its groups: 3+3+2 is not beaten in four, but in eight it is. */
function isEvenSplit(groups: readonly Fraction[], beat: Fraction): boolean {
  return groups.length === 1 || groups.every((group) => divide(group, beat).d === 1);
}

function joinedGroups(groups: readonly Fraction[], beats: number): readonly Fraction[] {
  const bounds = Array.from({ length: beats + 1 }, (_, beat) => Math.round((beat * groups.length) / beats));
  return bounds.slice(1).map((end, beat) => sum(groups.slice(bounds[beat], end)));
}
