import { howMany } from '@anchorbeat/core';
import type { ArchivedCount, ArchivedPiecePreview, ArchivePreview } from './responses.ts';

/** Whether bringing an archive back would change anything. */
export function changesAnything({
  isNewEnsemble,
  newSections,
  pieces,
  drills,
  runs,
  dates,
}: ArchivePreview): boolean {
  return (
    isNewEnsemble ||
    newSections.length > 0 ||
    pieces.some(({ does }) => does !== 'same') ||
    [drills, runs, dates].some((count) => count.new > 0)
  );
}

/** What bringing an archive back would change, line by line; a single line where it would change nothing. */
export function archiveLines(preview: ArchivePreview): readonly string[] {
  const { ensemble, isNewEnsemble, newSections, pieces, drills, runs, dates } = preview;
  const unchanged = pieces.filter(({ does }) => does === 'same').length;
  const lines = [
    isNewEnsemble ? `${ensemble} is not here yet: it comes in as an ensemble of its own` : '',
    newSections.length > 0 ? `${howMany(newSections.length, 'section')} more: ${newSections.join(', ')}` : '',
    ...pieces.filter(({ does }) => does !== 'same').map(pieceLine),
    countLine(drills, 'drill'),
    countLine(runs, 'run of the log', 'runs of the log'),
    countLine(dates, 'date with its plan', 'dates with their plans'),
  ].filter(Boolean);
  if (lines.length === 0) return ['Everything in it is here already: nothing would change'];
  return unchanged > 0 ? [...lines, `${howMany(unchanged, 'piece')} as here already`] : lines;
}

function pieceLine({ title, does, revisions }: ArchivedPiecePreview): string {
  const states = howMany(revisions, 'saved state');
  switch (does) {
    case 'new':
      return `${title}: new, with ${states}`;
    case 'goes on':
      return `${title}: goes on by ${states}`;
    case 'beside':
      return `${title}: went on otherwise here, so it comes in beside, with ${states}`;
    case 'same':
      return `${title}: as here`;
  }
}

function countLine({ new: added, kept }: ArchivedCount, one: string, many = `${one}s`): string {
  const told = [
    added > 0 ? `${howMany(added, one, many)} come${added === 1 ? 's' : ''} in` : '',
    kept > 0
      ? `${howMany(kept, one, many)} ${kept === 1 ? 'is' : 'are'} otherwise here and stay${kept === 1 ? 's' : ''} so`
      : '',
  ].filter(Boolean);
  return told.join('; ');
}
