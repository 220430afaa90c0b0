import type { Fraction } from '../../fraction/fraction.ts';
import { formatFraction } from '../../fraction/text.ts';
import { formatHoldLength, parseHoldLength } from '../../piece/barText.ts';
import { barLength, type Hold } from '../../piece/piece.ts';
import { formatNoteValue, parseNoteValue } from '../../value/text.ts';
import type { HoldDocument } from '../document.ts';
import type { FieldReader } from '../fieldReader.ts';
import { always, filledMaybe, type BarField } from './barField.ts';
import { atWords, readPosition } from './position.ts';

const HOLD_FIELDS = ['at', 'kind', 'length', 'value'];

export const holdsField: BarField<'holds'> = {
  names: ['holds'],
  read: ({ reader, fields, path, bar }) => {
    const length = barLength(bar);
    const holds = reader.list<Hold>(fields['holds'], `${path}.holds`, 'Holds come as a list', (hold, at) =>
      readHold(reader, hold, at, length),
    );
    return filledMaybe(holds);
  },
  write: (holds) => ({ holds: holds.map(writeHold) }),
  words: ({ holds = [] }) =>
    holds.map(({ at, kind, length }) => `${kind ?? 'hold'} ${length}${atWords(at)}`).join(', '),
  staysLocal: always,
  inShorthand: true,
};

function readHold(reader: FieldReader, value: unknown, path: string, length: Fraction): Hold | null {
  const fields = reader.fields(value, path, HOLD_FIELDS);
  const atWholes = fields && readPosition(reader, fields, path, { length, what: 'hold' });
  if (!fields || !atWholes) return null;
  const kind = reader.text(fields, 'kind', path) ?? 'hold';
  if (kind !== 'hold' && kind !== 'breath') {
    reader.refuse(`${path}.kind`, kind, 'This is either a hold or a breath');
    return null;
  }
  if (fields['length'] === undefined) {
    reader.refuse(`${path}.length`, '', 'Say how long: 2 beats, 1.5 seconds, or until cued');
    return null;
  }
  const holdLength = reader.parsedField(fields, 'length', path, parseHoldLength);
  const held = reader.parsedField(fields, 'value', path, parseNoteValue);
  if (!holdLength) return null;
  return { kind, atWholes, length: holdLength, ...(held && { value: held }) };
}

function writeHold({ kind, atWholes, length, value }: Hold): HoldDocument {
  return {
    ...(atWholes.n !== 0 && { at: formatFraction(atWholes) }),
    ...(kind === 'breath' && { kind }),
    length: formatHoldLength(length),
    ...(value && { value: formatNoteValue(value) }),
  };
}
