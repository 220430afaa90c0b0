import type { Fraction } from '../../fraction/fraction.ts';
import { formatFraction } from '../../fraction/text.ts';
import { formatMeter } from '../../meter/text.ts';
import { barLength, type Bar } from '../../piece/piece.ts';
import { meterForLengthMaybe, missingFrom, rhythmLength } from '../../rhythm/rhythm.ts';
import { noteValueOfLengthMaybe } from '../../value/noteValue.ts';
import { formatNoteValue } from '../../value/text.ts';
import type { BarCheck } from '../check.ts';

/** The notes of a bar add up to its length. */
export const notesFillBar: BarCheck = {
  id: 'notes-fill-bar',
  severity: 'error',
  name: 'Notes that do not fill the bar',
  explains: 'Whoever counts the notes and whoever counts the meter arrive at different moments.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    if (!bar.rhythm) return null;
    const missing = missingFrom(barLength(bar), bar.rhythm);
    if (missing.n === 0) return null;
    const size = { n: Math.abs(missing.n), d: missing.d };
    const miss = `${lengthName(size)} too ${missing.n > 0 ? 'short' : 'long'} for ${formatMeter(bar.meter)}`;
    const fit = fittingMeter(bar);
    return {
      says: `The notes of ${context.nameOf(barIndex)} are ${miss}${fit ? `; they would fill ${fit.text}` : ''}`,
      ...(fit && !bar.partial && { correction: { label: `Make it ${fit.text}`, edit: fit.edit(barIndex) } }),
    };
  },
};

function fittingMeter(bar: Bar) {
  const unit = Math.min(...bar.meter.parts.map((part) => part.unit));
  const fit = meterForLengthMaybe(rhythmLength(bar.rhythm ?? []), unit);
  if (!fit || fit.count > 128) return null;
  const meter = { parts: [{ groups: [fit.count], unit: fit.unit, prints: 'total' as const }] };
  return {
    text: `${fit.count}/${fit.unit}`,
    edit: (from: number) => ({ kind: 'setMeter' as const, from, count: 1, meter }),
  };
}

export function lengthName(size: Fraction): string {
  const value = noteValueOfLengthMaybe(size);
  if (value) return `one ${formatNoteValue(value)}`;
  return `${formatFraction(size)} of a whole note`;
}
