import type { Meter } from '../../meter/meter.ts';
import type { Bar } from '../../piece/piece.ts';
import type { Rhythm } from '../../rhythm/rhythm.ts';
import type { BarDocument } from '../document.ts';
import type { FieldReader, Fields } from '../fieldReader.ts';

/** A bar as it is being read: its fields, where they stand in the document, and what of it has been read before. */
export interface BarReading {
  readonly reader: FieldReader;
  readonly fields: Fields;
  readonly path: string;
  /** Fields that come before this one in the list of fields are read. */
  readonly bar: Bar;
  readonly meterBefore: Meter | undefined;
  /** Bars of the same meter share one object, which makes comparing and remembering cheap; so do bars with the same notes. */
  readonly shared: { readonly meters: Map<string, Meter>; readonly rhythms: Map<string, Rhythm> };
}

/** Everything that has to be known of one field of a bar, so that none can be forgotten when one is added. */
export interface BarField<K extends keyof Bar> {
  /** Its names in a document. */
  readonly names: ReadonlyArray<keyof BarDocument>;
  /** Reads it; called where the document has one of its names. What is wrong is told to the reader. */
  readonly read: (reading: BarReading) => Bar[K];
  readonly write: (value: NonNullable<Bar[K]> | Extract<Bar[K], null>) => Partial<BarDocument>;
  /** What a bar has of it, in words; empty where it has none. */
  readonly words: (document: BarDocument) => string;
  /** Fields with the same heading are told together where one of them changed; without one it is told for itself. */
  readonly toldWith?: string;
  /** Whether a change of it leaves tempo map, route and labels as they were. */
  readonly staysLocal: (was: Bar[K], is: Bar[K]) => boolean;
  /** Whether the shorthand has words for it; what it has none for is kept when a text is taken in. */
  readonly inShorthand: boolean;
}

export const always = () => true;
export const never = () => false;

/** A list, or undefined where it is empty. */
export function filledMaybe<T>(list: readonly T[]): readonly T[] | undefined {
  return list.length > 0 ? list : undefined;
}
