import { compare, ZERO } from '../../fraction/fraction.ts';
import { formatFraction, parseFraction } from '../../fraction/text.ts';
import { meterLength, type Meter } from '../../meter/meter.ts';
import { formatMeter, parseMeter } from '../../meter/text.ts';
import { always, type BarField } from './barField.ts';

/** Only for reading on after a meter that was refused. */
export const STAND_IN_METER: Meter = { parts: [{ groups: [4], unit: 4, prints: 'total' }] };

/** Left out where it stays the same. */
export const meterField: BarField<'meter'> = {
  names: ['meter'],
  read: ({ reader, fields, path, shared: { meters } }) => {
    const meter = reader.parsedField(fields, 'meter', path, parseMeter) ?? STAND_IN_METER;
    const text = formatMeter(meter);
    const known = meters.get(text) ?? meter;
    meters.set(text, known);
    return known;
  },
  write: (meter) => ({ meter: formatMeter(meter) }),
  words: ({ meter = '' }) => meter,
  staysLocal: always,
  inShorthand: true,
};

/** A bar shorter than its meter: a pickup keeps its end, a bar that is cut its start. */
export const partialField: BarField<'partial'> = {
  names: ['pickup', 'cutTo'],
  read: ({ reader, fields, path, bar: { meter } }) => {
    const kept = fields['pickup'] !== undefined ? 'pickup' : 'cutTo';
    if (fields['pickup'] !== undefined && fields['cutTo'] !== undefined)
      reader.refuse(`${path}.cutTo`, fields['cutTo'], 'A bar is either a pickup or cut short, not both');
    const lengthWholes = reader.parsedField(fields, kept, path, parseFraction);
    if (!lengthWholes) return undefined;
    if (compare(lengthWholes, ZERO) <= 0 || compare(lengthWholes, meterLength(meter)) >= 0) {
      const message = `This part of a bar must be longer than nothing and shorter than its ${formatMeter(meter)} bar`;
      reader.refuse(`${path}.${kept}`, fields[kept], message);
    }
    return { keeps: kept === 'pickup' ? 'end' : 'start', lengthWholes };
  },
  write: ({ keeps, lengthWholes }) => {
    const length = formatFraction(lengthWholes);
    return keeps === 'end' ? { pickup: length } : { cutTo: length };
  },
  words: ({ pickup, cutTo }) => (pickup ? `pickup of ${pickup}` : cutTo ? `cut to ${cutTo}` : ''),
  // Which side it keeps decides whether its number counts.
  staysLocal: (was, is) => was?.keeps === is?.keeps,
  inShorthand: true,
};
