import type { BarGeometry, CompiledPiece, Piece } from '@anchorbeat/core';
import { NEAR_ROWS, pageRows, type Detail, type LineRows } from './lineRows.ts';
import { rampWedgePaths } from './rampWedges.ts';
import { placeSigns } from './signs.ts';

/** The rows of a system with the room it needs, in pixels above and below the line. */
export interface SystemRows {
  readonly rows: LineRows;
  readonly abovePx: number;
  readonly belowPx: number;
}

const LEAST_TOP_PX = 16;

/** Rows for what stands in a system: nothing is kept free for what is not there. */
export function systemRows(
  piece: Piece,
  compiled: CompiledPiece,
  bars: readonly BarGeometry[],
  detail: Detail,
): SystemRows {
  const highest = bars.reduce(
    (most, { hops }) => hops.reduce((top, hop) => Math.max(top, hop.heightPx), most),
    0,
  );
  const rows = detail === 'near' ? NEAR_ROWS : pageRows(detail, Math.max(LEAST_TOP_PX, Math.ceil(highest)));
  const hasUpper = needsUpperRow(piece, compiled, bars, rows);
  const hasHoldWords = bars.some(({ barIndex }) =>
    piece.bars[barIndex]?.holds?.some(({ kind }) => kind === 'hold'),
  );
  return {
    rows,
    abovePx: roomAbove(rows, hasUpper),
    belowPx: detail === 'near' ? 66 : hasHoldWords ? 38 : 24,
  };
}

/** Pixels above the line that its rows need, with or without those above the meters. */
export function roomAbove({ upperTempoY, tempoSize, signY, signSize }: LineRows, hasUpper: boolean): number {
  return Math.ceil(hasUpper ? -upperTempoY + tempoSize + 3 : -signY + signSize * 0.56 + 3);
}

/** Whether anything stands above the row of the meters. */
export function needsUpperRow(
  piece: Piece,
  compiled: CompiledPiece,
  bars: readonly BarGeometry[],
  rows: LineRows,
): boolean {
  const hasRoute = bars.some(({ barIndex }) => {
    const { ending, navigation } = piece.bars[barIndex] ?? {};
    return ending !== undefined || navigation?.segno || navigation?.coda;
  });
  if (hasRoute || rampWedgePaths(piece, compiled, bars, rows).length > 0) return true;
  return placeSigns(piece, bars, rows).some(({ tempos }) => tempos.some(({ y }) => y === rows.upperTempoY));
}
