import { compare, type Fraction } from '../../fraction/fraction.ts';
import { formatFraction } from '../../fraction/text.ts';
import { barLength } from '../../piece/piece.ts';
import { TEMPO_RETURNS, type TempoMark, type TempoReturn } from '../../tempo/tempoMark.ts';
import {
  formatEquivalence,
  formatRamp,
  formatStatedTempo,
  parseEquivalence,
  parseRamp,
  parseStatedTempo,
} from '../../tempo/text.ts';
import { inNoteNames } from '../../value/names.ts';
import type { TempoMarkDocument } from '../document.ts';
import type { FieldReader, Fields } from '../fieldReader.ts';
import { never, type BarField } from './barField.ts';
import { atWords, readPosition } from './position.ts';

const MARK_FIELDS = ['at', 'term', 'tempo', 'equivalence', 'returns', 'ramp', 'endsRamp'];

/** In order of position; at most one at a position. */
export const tempoMarksField: BarField<'tempoMarks'> = {
  names: ['tempo'],
  read: ({ reader, fields, path, bar }) => {
    const length = barLength(bar);
    return reader.list<TempoMark>(
      fields['tempo'],
      `${path}.tempo`,
      'Tempo marks come as a list',
      (mark, at, before) => readTempoMark(reader, mark, at, length, before.at(-1)),
    );
  },
  write: (marks) => (marks.length > 0 ? { tempo: marks.map(writeTempoMark) } : {}),
  words: ({ tempo = [] }) => tempo.map(markWords).join(', '),
  staysLocal: never,
  inShorthand: true,
};

function readTempoMark(
  reader: FieldReader,
  value: unknown,
  path: string,
  length: Fraction,
  before: TempoMark | undefined,
): TempoMark | null {
  const fields = reader.fields(value, path, MARK_FIELDS);
  const atWholes = fields && readPosition(reader, fields, path, { length, what: 'mark' });
  if (!fields || !atWholes) return null;
  if (before && compare(before.atWholes, atWholes) >= 0) {
    const message = 'Tempo marks of a bar stand in order, one at a position';
    reader.refuse(`${path}.at`, formatFraction(atWholes), message);
    return null;
  }
  const term = reader.text(fields, 'term', path);
  const stated = reader.parsedField(fields, 'tempo', path, parseStatedTempo);
  const equivalence = reader.parsedField(fields, 'equivalence', path, parseEquivalence);
  const ramp = reader.parsedField(fields, 'ramp', path, parseRamp);
  const returns = readReturn(reader, fields, path);
  const endsRamp = reader.flag(fields, 'endsRamp', path);
  return {
    atWholes,
    ...(term !== undefined && { term }),
    ...(stated && { stated }),
    ...(equivalence && { equivalence }),
    ...(returns && { returns }),
    ...(ramp && { ramp }),
    ...(endsRamp && { endsRamp }),
  };
}

function readReturn(reader: FieldReader, fields: Fields, path: string): TempoReturn | undefined {
  const text = reader.text(fields, 'returns', path);
  const known = TEMPO_RETURNS.find((name) => name === text);
  if (text !== undefined && !known)
    reader.refuse(`${path}.returns`, text, `A return is one of: ${TEMPO_RETURNS.join(', ')}`);
  return known;
}

export function writeTempoMark(mark: TempoMark): TempoMarkDocument {
  return {
    ...(mark.atWholes.n !== 0 && { at: formatFraction(mark.atWholes) }),
    ...(mark.term !== undefined && { term: mark.term }),
    ...(mark.stated && { tempo: formatStatedTempo(mark.stated) }),
    ...(mark.equivalence && { equivalence: formatEquivalence(mark.equivalence) }),
    ...(mark.returns && { returns: mark.returns }),
    ...(mark.ramp && { ramp: formatRamp(mark.ramp) }),
    ...(mark.endsRamp && { endsRamp: true as const }),
  };
}

function markWords({ at, term, tempo, equivalence, returns, ramp, endsRamp }: TempoMarkDocument): string {
  const words = [
    term,
    equivalence && inNoteNames(equivalence),
    tempo && inNoteNames(tempo),
    returns === term ? undefined : returns,
    ramp && inNoteNames(ramp),
    endsRamp && 'end of the ramp',
  ];
  return words.filter(Boolean).join(' ') + atWords(at);
}
