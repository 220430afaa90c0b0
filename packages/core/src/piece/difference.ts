import { barLabels, barName } from './labels.ts';
import type { Bar, Piece } from './piece.ts';
import { writePiece, type BarDocument } from './document.ts';
import { formatMeter } from '../meter/text.ts';

/** One place at which two pieces differ, in a musician's words. */
export interface Difference {
  /** Printed name of the place, such as "bar 12" or "title". */
  readonly place: string;
  readonly says: string;
}

/**
 * What changed from `before` to `after`. Bars at both ends that are alike are matched; what lies
 * between is compared bar by bar where its length is the same, else reported as one replaced stretch.
 */
export function differencesBetween(before: Piece, after: Piece): readonly Difference[] {
  return [...headDifferences(before, after), ...barDifferences(before, after)];
}

function headDifferences(before: Piece, after: Piece): Difference[] {
  return (['title', 'subtitle', 'composer'] as const)
    .filter((field) => before[field] !== after[field])
    .map((field) => ({ place: field, says: `${field} is now "${after[field]}", was "${before[field]}"` }));
}

function barDifferences(before: Piece, after: Piece): Difference[] {
  const [a, b] = [comparable(before), comparable(after)];
  const start = commonLength(a, b, (list, index) => list[index]);
  const rest = { a: a.slice(start), b: b.slice(start) };
  const end = commonLength(rest.a, rest.b, (list, index) => list[list.length - 1 - index]);
  const removed = a.length - start - end;
  const added = b.length - start - end;
  if (removed === 0 && added === 0) return [];
  if (removed === added) return changedBars(before, after, start, removed, [a, b]);
  const labels = barLabels(removed > 0 ? before : after);
  const place = barName(labels, start);
  if (removed === 0) return [{ place, says: `${bars(added)} added at ${place}` }];
  if (added === 0) return [{ place, says: `${bars(removed)} deleted from ${place} on` }];
  return [{ place, says: `${bars(removed)} from ${place} on replaced by ${bars(added)}` }];
}

function changedBars(
  before: Piece,
  after: Piece,
  start: number,
  count: number,
  [a, b]: readonly [readonly string[], readonly string[]],
): Difference[] {
  const labels = barLabels(after);
  const changed = Array.from({ length: count }, (_, index) => start + index).filter(
    (index) => a[index] !== b[index],
  );
  return changed.map((index) => {
    const place = barName(labels, index);
    const [was, is] = [before.bars[index], after.bars[index]].map((bar) =>
      bar ? formatMeter(bar.meter) : '',
    );
    const says =
      was === is ? `${place}: ${aspects(a[index], b[index])} changed` : `${place} is now ${is}, was ${was}`;
    return { place, says };
  });
}

const ASPECTS: ReadonlyArray<readonly [keyof BarDocument, string]> = [
  ['tempo', 'tempo marks'],
  ['label', 'label'],
  ['pickup', 'pickup'],
  ['cutTo', 'length'],
  ['rehearsalMark', 'rehearsal mark'],
];

function aspects(a = '{}', b = '{}'): string {
  const [was, is] = [JSON.parse(a) as BarDocument, JSON.parse(b) as BarDocument];
  const names = ASPECTS.filter(([field]) => JSON.stringify(was[field]) !== JSON.stringify(is[field]));
  return names.map(([, name]) => name).join(', ');
}

function comparable(piece: Piece): string[] {
  const documents = writePiece(piece).bars;
  return documents.map((bar, index) =>
    JSON.stringify({ ...bar, meter: formatMeter((piece.bars[index] as Bar).meter) }),
  );
}

function commonLength(
  a: readonly string[],
  b: readonly string[],
  at: (list: readonly string[], index: number) => string | undefined,
): number {
  const limit = Math.min(a.length, b.length);
  let length = 0;
  while (length < limit && at(a, length) === at(b, length)) length++;
  return length;
}

function bars(count: number): string {
  return count === 1 ? '1 bar' : `${count} bars`;
}
