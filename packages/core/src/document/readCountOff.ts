import { COUNT_SCHOOLS } from '../count/schools.ts';
import { MAX_COUNT_OFF_BARS, PLAIN_COUNT_OFF, type CountOffSettings } from '../countoff/settings.ts';
import { COUNT_OFF_STYLES } from '../countoff/styles.ts';
import { within, type FieldReader, type Fields } from './fieldReader.ts';

const FIELDS = ['bars', 'school', 'style', 'breathOnLastBeat', 'cueWord', 'firstNote'];
const HIGHEST_NOTE = 127;

/** Reads how a bar is counted in; what is left out is as in a plain count-off. */
export function readCountOff(
  reader: FieldReader,
  value: unknown,
  path: string,
): CountOffSettings | undefined {
  const fields = reader.fields(value, path, FIELDS);
  if (!fields) return undefined;
  return {
    bars: wholeNumber(reader, fields, 'bars', path, MAX_COUNT_OFF_BARS) ?? PLAIN_COUNT_OFF.bars,
    school: idOf(reader, fields, 'school', path, COUNT_SCHOOLS) ?? PLAIN_COUNT_OFF.school,
    style: idOf(reader, fields, 'style', path, COUNT_OFF_STYLES) ?? PLAIN_COUNT_OFF.style,
    breathOnLastBeat: reader.flag(fields, 'breathOnLastBeat', path) ?? false,
    cueWord: reader.text(fields, 'cueWord', path) ?? null,
    firstNote: wholeNumber(reader, fields, 'firstNote', path, HIGHEST_NOTE) ?? null,
  };
}

function wholeNumber(
  reader: FieldReader,
  fields: Fields,
  name: string,
  path: string,
  most: number,
): number | undefined {
  const value = fields[name];
  if (value === undefined) return undefined;
  if (typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= most) return value;
  reader.refuse(within(path, name), value, `Here a whole number from 0 to ${most} is expected`);
  return undefined;
}

function idOf(
  reader: FieldReader,
  fields: Fields,
  name: string,
  path: string,
  known: ReadonlyArray<{ readonly id: string }>,
): string | undefined {
  const id = reader.text(fields, name, path);
  if (id === undefined || known.some((entry) => entry.id === id)) return id;
  const ids = known.map((entry) => entry.id).join(', ');
  reader.refuse(within(path, name), id, `"${id.slice(0, 40)}" is not known; known are ${ids}`);
  return undefined;
}
