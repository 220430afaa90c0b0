import { compare, ZERO, type Fraction } from '../../fraction/fraction.ts';
import { parseFraction } from '../../fraction/text.ts';
import { ofAWhole } from '../../value/text.ts';
import type { FieldReader, Fields } from '../fieldReader.ts';

/** Where in its bar something stands, in whole notes; null where that is no place in a bar of this length. */
export function readPosition(
  reader: FieldReader,
  fields: Fields,
  path: string,
  { length, what }: { readonly length: Fraction; readonly what: string },
): Fraction | null {
  const at = fields['at'] === undefined ? ZERO : reader.parsedField(fields, 'at', path, parseFraction);
  if (!at) return null;
  if (compare(at, ZERO) >= 0 && compare(at, length) < 0) return at;
  const message = `This ${what} stands outside its bar, which is ${ofAWhole(length)} long`;
  reader.refuse(`${path}.at`, fields['at'], message);
  return null;
}

/** " at 1/4", or nothing at the barline. */
export function atWords(at: string | undefined): string {
  return at ? ` at ${at}` : '';
}
