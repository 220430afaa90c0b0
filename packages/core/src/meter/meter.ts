import { fraction, sum, type Fraction } from '../fraction/fraction.ts';

/**
 * One term of a meter: groups over a unit. `7/8` is one group of 7; `(2+2+3)/8` prints its groups;
 * `7/8 as 2+2+3` prints 7 and is grouped 2+2+3. `4/4 as 3+3+2` is grouped in eighths, its unit is 8, and prints 4/4.
 */
export interface MeterPart {
  readonly groups: readonly number[];
  readonly unit: number;
  readonly prints: 'total' | 'groups';
  /** The unit that is printed, where the groups count smaller notes. */
  readonly printedUnit?: number;
}

/** A sum of parts: `4/4` has one, `3/4+3/8` two. */
export interface Meter {
  readonly parts: readonly MeterPart[];
}

export const MAX_METER_COUNT = 128;
export const MAX_METER_UNIT = 128;

export function partCount(part: MeterPart): number {
  return part.groups.reduce((total, group) => total + group, 0);
}

/** How many of which unit are printed: 4 and 4 of `4/4 as 3+3+2`. */
export function printedCount(part: MeterPart): { readonly count: number; readonly unit: number } {
  const unit = part.printedUnit ?? part.unit;
  return { count: (partCount(part) * unit) / part.unit, unit };
}

export function isGrouped(part: MeterPart): boolean {
  return part.groups.length > 1;
}

/** Length of a full bar in whole notes. */
export function meterLength(meter: Meter): Fraction {
  const known = lengths.get(meter);
  if (known) return known;
  const length = sum(meter.parts.map((part) => fraction(partCount(part), part.unit)));
  lengths.set(meter, length);
  return length;
}

const lengths = new WeakMap<Meter, Fraction>();

/** The finest unit written in the meter, in whole notes. */
export function meterUnit(meter: Meter): Fraction {
  return fraction(1, Math.max(...meter.parts.map((part) => part.unit)));
}
