import { add, ZERO, type Fraction } from '../fraction/fraction.ts';
import type { Meter } from '../meter/meter.ts';
import { formatMeter } from '../meter/text.ts';
import { barLength, type Bar } from '../piece/piece.ts';
import { noteValueLength } from '../value/noteValue.ts';
import { lengthWords } from '../value/text.ts';
import { meterForLengthMaybe, missingFrom, rhythmLength, type Rhythm, type RhythmNote } from './rhythm.ts';

/** How notes fill their bar. */
export interface RhythmFill {
  /** Whole notes that are missing; negative where there are too many; zero where they fill it. */
  readonly missingWholes: Fraction;
  /** "fill the bar", "are one eighth too short for 4/4; they would fill 7/8". */
  readonly says: string;
  /** The meter they would fill, where they do not fill this one. */
  readonly fittingMeter: Meter | null;
}

const MOST_UNITS = 128;

export function rhythmFill(bar: Bar, rhythm: Rhythm): RhythmFill {
  const missingWholes = missingFrom(barLength(bar), rhythm);
  if (missingWholes.n === 0) return { missingWholes, says: 'fill the bar', fittingMeter: null };
  const size = { n: Math.abs(missingWholes.n), d: missingWholes.d };
  const miss = `${lengthWords(size)} too ${missingWholes.n > 0 ? 'short' : 'long'} for ${formatMeter(bar.meter)}`;
  const fittingMeter = meterFilledBy(bar, rhythm);
  const fit = fittingMeter ? `; they would fill ${formatMeter(fittingMeter)}` : '';
  return { missingWholes, says: `are ${miss}${fit}`, fittingMeter };
}

function meterFilledBy(bar: Bar, rhythm: Rhythm): Meter | null {
  const unit = Math.min(...bar.meter.parts.map((part) => part.printedUnit ?? part.unit));
  const fit = meterForLengthMaybe(rhythmLength(rhythm), unit);
  if (!fit || fit.count > MOST_UNITS) return null;
  return { parts: [{ groups: [fit.count], unit: fit.unit, prints: 'total' }] };
}

/** A note with where it begins, in whole notes from the barline. */
export interface PlacedNote {
  readonly note: RhythmNote;
  readonly atWholes: Fraction;
}

export function placedNotes(rhythm: Rhythm): readonly PlacedNote[] {
  let atWholes = ZERO;
  return rhythm.map((note) => {
    const placed = { note, atWholes };
    atWholes = add(atWholes, noteValueLength(note.value));
    return placed;
  });
}
