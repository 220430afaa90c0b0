import {
  capital,
  formatMeter,
  oddBarMaybe,
  spanName,
  type BarSpan,
  type CompiledPiece,
  type Piece,
  type SectionMark,
} from '@anchorbeat/core';
import { openFindings } from '../line/FindingMarks.tsx';

const DOES: Readonly<Record<SectionMark['does'], string>> = { enters: 'enter', rests: 'rest', cue: 'cue' };

/** What is written in the selected bars and not always drawn: the meter, what is odd, sections, the word. */
export function barFacts(piece: Piece, compiled: CompiledPiece, span: BarSpan): readonly string[] {
  const bar = piece.bars[span.from];
  if (!bar) return [];
  if (span.count > 1) return [`${span.count} bars`, `from ${formatMeter(bar.meter)}`];
  const sections = (bar.sectionMarks ?? []).map(({ section, does, says }) =>
    [section, DOES[does], says && `“${says}”`].filter(Boolean).join(' '),
  );
  const isOpen = openFindings(compiled).some(({ barIndex }) => barIndex === span.from);
  return [
    formatMeter(bar.meter),
    oddBarMaybe(piece, span.from)?.words,
    ...sections,
    bar.note && `“${bar.note}”`,
    isOpen && 'something to look at',
  ].filter((fact): fact is string => Boolean(fact));
}

/** The selected bars by name, as a heading. */
export function spanTitle(piece: Piece, span: BarSpan): string {
  return capital(spanName(piece, span));
}
