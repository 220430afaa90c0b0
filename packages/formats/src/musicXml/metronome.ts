import {
  toNumber,
  type Equivalence,
  type Fraction,
  type NoteValue,
  type StatedTempo,
} from '@anchorbeat/core';
import { beatUnitMaybe, decimalMaybe, tupletMaybe } from './values.ts';
import { child, childrenOf, childText, type XmlElement } from './xmlTree.ts';

/** What a metronome mark says. `isAbout` where it gives a range or "circa", of which the first number was taken. */
export type MetronomeMark =
  | { readonly kind: 'tempo'; readonly tempo: StatedTempo; readonly isAbout: boolean }
  | { readonly kind: 'equivalence'; readonly equivalence: Equivalence }
  | { readonly kind: 'unread'; readonly says: string };

/** Reads `beat-unit` with a number, a pair of them, or two groups of `metronome-note`. */
export function readMetronome(metronome: XmlElement): MetronomeMark {
  const notes = childrenOf(metronome, 'metronome-note');
  if (notes.length > 0) return fromNotes(metronome);
  const units = unitsOf(metronome);
  const [first, second] = units;
  if (first && second) return { kind: 'equivalence', equivalence: { before: first, after: second } };
  const perMinute = childText(metronome, 'per-minute');
  if (!first) return { kind: 'unread', says: 'a metronome mark without a beat that is known' };
  const number = /\d+(?:\.\d+)?/.exec(perMinute)?.[0];
  const bpm = number === undefined ? null : decimalMaybe(number);
  if (!bpm || !isPlayable(bpm))
    return { kind: 'unread', says: `a metronome mark of "${perMinute.slice(0, 30)}" beats a minute` };
  return { kind: 'tempo', tempo: { unit: first, bpm }, isAbout: perMinute.trim() !== number };
}

function isPlayable(bpm: Fraction): boolean {
  return toNumber(bpm) >= 1 && toNumber(bpm) <= 1000;
}

/** Beat units in order, each with the dots that follow it. */
function unitsOf(metronome: XmlElement): readonly NoteValue[] {
  const units: Array<{ type: string; dots: number }> = [];
  for (const { name, text } of metronome.children) {
    if (name === 'beat-unit') units.push({ type: text, dots: 0 });
    const last = units.at(-1);
    if (name === 'beat-unit-dot' && last) last.dots++;
  }
  return units.map(({ type, dots }) => beatUnitMaybe(type, dots, null)).filter((unit) => unit !== null);
}

/** Notes left and right of the relation. One on each side is an equivalence; more are a way of playing, such as swing. */
function fromNotes(metronome: XmlElement): MetronomeMark {
  const at = metronome.children.findIndex(({ name }) => name === 'metronome-relation');
  const side = (elements: readonly XmlElement[]) =>
    elements.filter(({ name }) => name === 'metronome-note').map(noteOf);
  const before = side(metronome.children.slice(0, Math.max(0, at)));
  const after = side(metronome.children.slice(at + 1));
  const [was, is] = [before[0], after[0]];
  if (at < 0 || !was || !is || before.length !== 1 || after.length !== 1)
    return { kind: 'unread', says: 'a relation of several notes, such as swing' };
  return { kind: 'equivalence', equivalence: { before: was, after: is } };
}

function noteOf(note: XmlElement): NoteValue | null {
  const dots = childrenOf(note, 'metronome-dot').length;
  return beatUnitMaybe(childText(note, 'metronome-type'), dots, tupletMaybe(child(note, 'metronome-tuplet')));
}
