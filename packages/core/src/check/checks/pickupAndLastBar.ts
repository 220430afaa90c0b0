import { divide, equal, fraction, subtract, type Fraction } from '../../fraction/fraction.ts';
import { formatFraction, formatNumber } from '../../fraction/text.ts';
import { meterLength, meterUnit, type Meter } from '../../meter/meter.ts';
import { meterBeat } from '../../meter/meterBeat.ts';
import { barLength } from '../../piece/piece.ts';
import { noteValueLength, noteValueOfLengthMaybe, type NoteValue } from '../../value/noteValue.ts';
import { notesWords } from '../../value/text.ts';
import type { Check } from '../check.ts';

/** By custom a piece that begins with a pickup ends with a bar that the pickup completes. */
export const pickupAndLastBar: Check = {
  id: 'pickup-and-last-bar',
  severity: 'hint',
  name: 'Pickup and last bar',
  explains: 'When the piece or its section is repeated, the two halves make one bar.',
  looksAt: 'piece',
  find: ({ piece, nameOf }) => {
    const [first, last] = [piece.bars[0], piece.bars.at(-1)];
    if (first?.partial?.keeps !== 'end' || !last || piece.bars.length < 2) return [];
    const completes = subtract(meterLength(last.meter), first.partial.lengthWholes);
    if (completes.n <= 0 || equal(barLength(last), completes)) return [];
    const barIndex = piece.bars.length - 1;
    const pickup = first.partial.lengthWholes;
    const full = meterLength(last.meter);
    const beat = meterBeat(last.meter);
    const lengths = [barLength(last), full, pickup];
    const unit = [beat, ...halvedUnits(last.meter)].find((value) => allWhole(value, lengths)) ?? beat;
    const inUnits = (length: Fraction) => formatNumber(divide(length, noteValueLength(unit)));
    const unitName = unit === beat ? 'beats' : notesWords(unit);
    return [
      {
        barIndex,
        says: `The piece ends with ${inUnits(barLength(last))} of ${inUnits(full)} ${unitName}; the pickup has ${inUnits(pickup)}, so ${inUnits(completes)} would complete it`,
        correction: {
          label: `Cut ${nameOf(barIndex)} to ${formatFraction(completes)}`,
          edit: { kind: 'setPartial', bar: barIndex, partial: { keeps: 'start', lengthWholes: completes } },
        },
      },
    ];
  },
};

function allWhole(unit: NoteValue, lengths: readonly Fraction[]): boolean {
  return lengths.every((length) => divide(length, noteValueLength(unit)).d === 1);
}

/** The note a meter counts in, its half, and so on: in one of them a pickup is a whole number. */
function halvedUnits(meter: Meter): readonly NoteValue[] {
  return [1, 2, 4, 8, 16].flatMap((parts) => {
    const value = noteValueOfLengthMaybe(divide(meterUnit(meter), fraction(parts)));
    return value ? [value] : [];
  });
}
