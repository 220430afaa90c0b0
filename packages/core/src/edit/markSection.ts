import { barLabels, barName } from '../piece/labels.ts';
import type { Bar, SectionMark } from '../piece/piece.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Says what a section does from a bar on, in place of what was said of it there. */
export const markSection: EditKind<'markSection'> = (piece, { bar: index, section, does, says }) => {
  const mark = does && { section, does, ...(says !== undefined && { says }) };
  const words = mark ? `${section} ${does}${says ? ` (${says})` : ''}` : `nothing said of ${section}`;
  const bar = withSectionMark(barAt(piece, index), section, mark);
  return withBar(piece, index, bar, `${barName(barLabels(piece), index)}: ${words}`);
};

/** The bar with one section's mark set, or taken away with null. */
export function withSectionMark(bar: Bar, section: string, mark: SectionMark | null): Bar {
  const others = (bar.sectionMarks ?? []).filter((other) => other.section !== section);
  const sectionMarks = mark ? [...others, mark] : others;
  return { ...bar, sectionMarks: sectionMarks.length > 0 ? sectionMarks : undefined };
}
