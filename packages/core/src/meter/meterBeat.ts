import { fraction, toNumber } from '../fraction/fraction.ts';
import { noteValue, noteValueOfLengthMaybe, type NoteValue } from '../value/noteValue.ts';
import { meterLength, type Meter } from './meter.ts';

/** The beat a meter is usually told in: the dotted one where it counts in threes (6/8, 9/8, 12/16), else its unit. */
export function meterBeat(meter: Meter): NoteValue {
  const [first] = meter.parts;
  const unit = first?.printedUnit ?? first?.unit ?? 4;
  const count = toNumber(meterLength(meter)) * unit;
  const isCompound = unit >= 8 && count >= 6 && count % 3 === 0;
  return noteValueOfLengthMaybe(fraction(isCompound ? 3 : 1, unit)) ?? noteValue('quarter');
}
