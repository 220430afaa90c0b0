import {
  formatStatedTempo,
  fraction,
  multiply,
  noteValueLength,
  noteValueOfLengthMaybe,
  sum,
  toNumber,
  type Equivalence,
  type Fraction,
  type NoteValue,
  type StatedTempo,
} from '@anchorbeat/core';
import { beatUnitMaybe, decimalMaybe, tupletMaybe } from './values.ts';
import { child, childrenOf, childText, type XmlElement } from './xmlTree.ts';

/**
 * What a metronome mark says. `isAbout` where it gives a range or "circa", of which the first number was taken; `says` where
 * it had to be told otherwise than it is printed.
 */
export type MetronomeMark =
  | { readonly kind: 'tempo'; readonly tempo: StatedTempo; readonly isAbout: boolean; readonly says?: string }
  | { readonly kind: 'equivalence'; readonly equivalence: Equivalence }
  | { readonly kind: 'unread'; readonly says: string };

/** Reads `beat-unit` with a number, a pair of them, or two groups of `metronome-note`; notes may be tied together. */
export function readMetronome(metronome: XmlElement): MetronomeMark {
  const notes = childrenOf(metronome, 'metronome-note');
  if (notes.length > 0) return fromNotes(metronome);
  const [first, second] = unitsOf(metronome);
  if (first && second) return equivalence(first, second);
  const perMinute = childText(metronome, 'per-minute');
  if (!first) return { kind: 'unread', says: 'a metronome mark without a beat that is known' };
  const number = /\d+(?:[.,]\d+)?/.exec(perMinute)?.[0];
  const printed = number === undefined ? null : decimalMaybe(number.replace(',', '.'));
  const beat = printed && inOneNote(first, printed);
  if (!beat || !isPlayable(beat.bpm))
    return { kind: 'unread', says: `a metronome mark of "${perMinute.slice(0, 30)}" beats a minute` };
  const says = `a tempo of notes that are tied together was taken for ${formatStatedTempo(beat)}`;
  return {
    kind: 'tempo',
    tempo: beat,
    isAbout: perMinute.trim() !== number,
    ...(!noteValueOfTied(first) && { says }),
  };
}

function isPlayable(bpm: Fraction): boolean {
  return toNumber(bpm) >= 1 && toNumber(bpm) <= 1000;
}

/** One note, or several tied together. */
type Tied = readonly NoteValue[];

function noteValueOfTied(tied: Tied): NoteValue | null {
  const [only, ...more] = tied;
  return only && more.length === 0 ? only : noteValueOfLengthMaybe(sum(tied.map(noteValueLength)));
}

/** A tempo as one of a single note: a quarter tied to a dotted quarter is five eighths. */
function inOneNote(tied: Tied, bpm: Fraction): StatedTempo | null {
  const whole = noteValueOfTied(tied);
  if (whole) return { unit: whole, bpm };
  const length = sum(tied.map(noteValueLength));
  const unit = noteValueOfLengthMaybe(fraction(1, length.d));
  return unit && { unit, bpm: multiply(bpm, fraction(length.n)) };
}

function equivalence(before: Tied, after: Tied): MetronomeMark {
  const [was, is] = [noteValueOfTied(before), noteValueOfTied(after)];
  if (!was || !is) return { kind: 'unread', says: 'a relation of notes that are tied together' };
  return { kind: 'equivalence', equivalence: { before: was, after: is } };
}

/** Beat units in order, each with the dots that follow it and what is tied to it. */
function unitsOf({ children }: XmlElement): readonly Tied[] {
  const units: Array<Array<{ type: string; dots: number }>> = [];
  for (const element of children) {
    const last = units.at(-1);
    if (element.name === 'beat-unit') units.push([{ type: element.text, dots: 0 }]);
    const note = last?.at(-1);
    if (element.name === 'beat-unit-dot' && note) note.dots++;
    if (element.name === 'beat-unit-tied')
      last?.push({
        type: childText(element, 'beat-unit'),
        dots: childrenOf(element, 'beat-unit-dot').length,
      });
  }
  return units
    .map((tied) => tied.map(({ type, dots }) => beatUnitMaybe(type, dots, null)))
    .filter((tied): tied is NoteValue[] => !tied.includes(null));
}

/** Notes left and right of the relation. One on each side is an equivalence; more are a way of playing, such as swing. */
function fromNotes(metronome: XmlElement): MetronomeMark {
  const at = metronome.children.findIndex(({ name }) => name === 'metronome-relation');
  const before = notesOf(metronome.children.slice(0, Math.max(0, at)));
  const after = notesOf(metronome.children.slice(at + 1));
  const [was, is] = [before[0], after[0]];
  if (at < 0 || !was || !is || before.length !== 1 || after.length !== 1)
    return { kind: 'unread', says: 'a relation of several notes, such as swing' };
  return was.includes(null) || is.includes(null)
    ? { kind: 'unread', says: 'a relation of notes that are not known' }
    : equivalence(was as Tied, is as Tied);
}

/** The notes of one side, those that are tied together as one. */
function notesOf(elements: readonly XmlElement[]): ReadonlyArray<ReadonlyArray<NoteValue | null>> {
  const sides: Array<Array<NoteValue | null>> = [];
  for (const element of elements.filter(({ name }) => name === 'metronome-note')) {
    const ties = childrenOf(element, 'metronome-tied').map(({ attributes }) => attributes['type']);
    if (ties.includes('stop') && sides.length > 0) sides.at(-1)!.push(noteOf(element));
    else sides.push([noteOf(element)]);
  }
  return sides;
}

function noteOf(note: XmlElement): NoteValue | null {
  const dots = childrenOf(note, 'metronome-dot').length;
  return beatUnitMaybe(childText(note, 'metronome-type'), dots, tupletMaybe(child(note, 'metronome-tuplet')));
}
