import {
  formatMeter,
  noteWords,
  oddBarMaybe,
  type BarGeometry,
  type CompiledPiece,
  type Piece,
  type Seam,
} from '@anchorbeat/core';
import { NEAR_ROWS, systemShapes, type LineRows } from '@anchorbeat/drawing';
import { memo } from 'react';
import { FindingMarks } from './FindingMarks.tsx';
import { Shapes } from './Shapes.tsx';

interface SystemViewProps {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
  /** The seam that leads into a drawn bar. */
  readonly seamOf: (bar: BarGeometry) => Seam | undefined;
  /** Marks bars with something to look at: at the desk, not in front of the ensemble. */
  readonly hasFindings?: boolean;
  /** Where everything beside the hops stands; as seen from near where nothing else is said. */
  readonly rows?: LineRows;
  /** Bars whose beats are counted although they are not seen from near. */
  readonly isCounted?: (bar: BarGeometry) => boolean;
}

/** One system of the line, standing on y = 0. */
export const SystemView = memo(function SystemView({
  hasFindings,
  rows = NEAR_ROWS,
  ...drawing
}: SystemViewProps) {
  return (
    <g>
      <Shapes shapes={systemShapes({ ...drawing, rows })} />
      {hasFindings && <FindingMarks compiled={drawing.compiled} bars={drawing.bars} rows={rows} />}
    </g>
  );
});

/** What is read out of a bar: "Bar 11, 15/16 as 4+4+4+3, one sixteenth short, lands together, carry eighth". */
export function barDescription(
  piece: Piece,
  compiled: CompiledPiece,
  barIndex: number,
  seam: Seam | undefined,
): string {
  const bar = piece.bars[barIndex];
  if (!bar) return '';
  const parts = [
    compiled.labels[barIndex] ? `Bar ${compiled.labels[barIndex]}` : 'Pickup',
    bar.rehearsalMark && `rehearsal mark ${bar.rehearsalMark}`,
    formatMeter(bar.meter),
    oddBarMaybe(piece, barIndex)?.words,
    seam && 'seam',
    seam?.carry && `carry ${carryWords(seam.carry)}`,
  ];
  return parts.filter(Boolean).join(', ');
}

function carryWords({ before, after }: NonNullable<Seam['carry']>): string {
  const [was, is] = [noteWords(before), noteWords(after)];
  return was === is ? `${was} stays` : `${was} becomes ${is}`;
}
