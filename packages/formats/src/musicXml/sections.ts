import { MAX_SECTIONS, type BarDocument, type SectionMark } from '@anchorbeat/core';
import type { NoteTaker } from '../notes.ts';
import type { ScorePart } from './assemble.ts';

/** Fewer bars' rest than this are not told of a section: everybody rests that long now and then. */
const LEAST_REST_BARS = 2;

/** Every part becomes a section; where it rests for two bars or more, and where it enters again, is marked. */
export function addSections(
  bars: BarDocument[],
  parts: readonly ScorePart[],
  notes: NoteTaker,
): readonly string[] {
  if (parts.length < 2) return [];
  const names = uniqueNames(parts);
  const kept = parts.slice(0, MAX_SECTIONS);
  if (parts.length > MAX_SECTIONS)
    notes.leftOut(`${parts.length - MAX_SECTIONS} parts: a piece has at most ${MAX_SECTIONS} sections`);
  const marks = bars.map((): SectionMark[] => []);
  kept.forEach(({ measures }, index) => {
    const section = names[index] ?? '';
    let isResting = false;
    for (let from = 0; from < bars.length;) {
      let to = from;
      while (to < bars.length && !measures[to]?.isSounding) to++;
      const rests = to - from;
      if (rests >= LEAST_REST_BARS || (rests > 0 && from === 0)) {
        if (from > 0) marks[from]?.push({ section, does: 'rests' });
        isResting = true;
      }
      if (to < bars.length && isResting) {
        marks[to]?.push({ section, does: 'enters' });
        isResting = false;
      }
      from = to + 1;
      while (from < bars.length && measures[from]?.isSounding) from++;
    }
  });
  marks.forEach((sections, index) => {
    if (sections.length > 0) bars[index] = { ...(bars[index] as BarDocument), sections };
  });
  return names.slice(0, MAX_SECTIONS);
}

/** Names of parts, told apart by a number where they are alike. */
function uniqueNames(parts: readonly ScorePart[]): readonly string[] {
  const taken = new Set<string>();
  return parts.map(({ name }, index) => {
    const plain = name.replace(/\s+/g, ' ').trim().slice(0, 100) || `Part ${index + 1}`;
    let unique = plain;
    for (let number = 2; taken.has(unique); number++) unique = `${plain} ${number}`;
    taken.add(unique);
    return unique;
  });
}
