import {
  compare,
  fraction,
  noteValueLength,
  singleNoteMaybe,
  subtract,
  equal,
  type Fraction,
  type NoteBase,
  type NoteValue,
  type Tuplet,
} from '@anchorbeat/core';
import { child, childrenOf, childText, type XmlElement } from './xmlTree.ts';

const BASES: Readonly<Record<string, NoteBase>> = {
  breve: 'breve',
  whole: 'whole',
  half: 'half',
  quarter: 'quarter',
  eighth: 'eighth',
  '16th': 'sixteenth',
  '32nd': '32nd',
  '64th': '64th',
};

/** Names of note values in MusicXML. */
export const TYPE_NAMES = Object.fromEntries(
  Object.entries(BASES).map(([name, base]) => [base, name]),
) as Readonly<Record<NoteBase, string>>;

const DECIMAL = /^(\d{1,9})(?:\.(\d{1,6}))?$/;

/** A number as MusicXML writes it, exactly; null where it is none or has more digits than a score needs. */
export function decimalMaybe(text: string): Fraction | null {
  const match = DECIMAL.exec(text.trim());
  if (!match) return null;
  const [whole = '0', part = ''] = [match[1], match[2]];
  return fraction(Number(whole + part), 10 ** part.length);
}

/** The note value that an element's type, dots and tuplet name; null where it names none that is known. */
function namedValueMaybe(note: XmlElement): NoteValue | null {
  const base = BASES[childText(note, 'type')];
  if (!base) return null;
  const dots = childrenOf(note, 'dot').length;
  if (dots > 3) return null;
  const tuplet = tupletMaybe(child(note, 'time-modification'));
  return { base, dots, tuplets: tuplet ? [tuplet] : [] };
}

/** The note of a metronome mark: `beat-unit` with its dots, or `metronome-type` with dots and a tuplet. */
export function beatUnitMaybe(type: string, dots: number, tuplet: Tuplet | null): NoteValue | null {
  const base = BASES[type.trim()];
  return base && dots <= 3 ? { base, dots, tuplets: tuplet ? [tuplet] : [] } : null;
}

export function tupletMaybe(element: XmlElement | undefined): Tuplet | null {
  const [actual, normal] = [
    Number(childText(element, 'actual-notes')),
    Number(childText(element, 'normal-notes')),
  ];
  const isTuplet = Number.isInteger(actual) && Number.isInteger(normal) && actual > 0 && normal > 0;
  return isTuplet && actual !== normal && actual <= 64 && normal <= 64 ? { actual, normal } : null;
}

/**
 * How long a note lasts: its duration, or where that is only the nearest whole number of divisions for a note of a tuplet
 * (three of 85, 85 and 86 in a beat of 256), what its name says.
 */
export function lengthOfNote(note: XmlElement, durationWholes: Fraction, divisionWholes: Fraction): Fraction {
  const named = namedValueMaybe(note);
  if (!named || named.tuplets.length === 0) return durationWholes;
  const exact = noteValueLength(named);
  const [less, more] = compare(exact, durationWholes) < 0 ? [exact, durationWholes] : [durationWholes, exact];
  return durationWholes.n > 0 && compare(subtract(more, less), divisionWholes) < 0 ? exact : durationWholes;
}

/** The note as it is named, if it lasts as long as it says; else the one that does. */
export function valueOfNoteMaybe(note: XmlElement, length: Fraction): NoteValue | null {
  const named = namedValueMaybe(note);
  return named && equal(noteValueLength(named), length) ? named : singleNoteMaybe(length);
}
