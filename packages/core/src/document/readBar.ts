import type { Meter } from '../meter/meter.ts';
import { ofOneShape, type Bar } from '../piece/piece.ts';
import type { Rhythm } from '../rhythm/rhythm.ts';
import { BAR_DOCUMENT_NAMES, BAR_FIELD_NAMES, BAR_FIELDS } from './barFields.ts';
import type { FieldReader } from './fieldReader.ts';
import type { BarReading } from './fields/barField.ts';
import { STAND_IN_METER } from './fields/meterFields.ts';

/** Reads bars one after another. Whatever is wrong with one, the rest of it is read too, so that all is reported at once. */
export class BarReader {
  private readonly shared = { meters: new Map<string, Meter>(), rhythms: new Map<string, Rhythm>() };

  constructor(private readonly reader: FieldReader) {}

  read(value: unknown, path: string, meterBefore: Meter | undefined): Bar {
    const { reader, shared } = this;
    const fields = reader.fields(value, path, BAR_DOCUMENT_NAMES);
    const bar = ofOneShape({ meter: meterBefore ?? STAND_IN_METER, tempoMarks: [] });
    if (!fields) return bar;
    if (fields['meter'] === undefined && !meterBefore)
      reader.refuse(`${path}.meter`, '', 'The first bar needs a meter, such as 4/4');
    const reading: BarReading = { reader, fields, path, bar, meterBefore, shared };
    for (const name of BAR_FIELD_NAMES) readInto(bar, name, reading);
    return bar;
  }
}

/** Fields are put into the bar that is being read, so that it keeps the one shape of all bars. */
function readInto<K extends keyof Bar>(bar: Bar, name: K, reading: BarReading): void {
  const { names, read } = BAR_FIELDS[name];
  if (names.some((each) => reading.fields[each] !== undefined))
    (bar as { -readonly [L in keyof Bar]: Bar[L] })[name] = read(reading);
}
