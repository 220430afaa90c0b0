import type { BarGeometry, Proof } from '@anchorbeat/core';
import { placeAbove } from './aboveLine.ts';
import { NEAR_ROWS, pageRows, type Detail, type LineRows } from './lineRows.ts';

/** The rows of a system with the room it needs, in pixels above and below the line. */
export interface SystemRows {
  readonly rows: LineRows;
  readonly abovePx: number;
  readonly belowPx: number;
}

const LEAST_TOP_PX = 16;

/** Rows for what stands in a system: nothing is kept free for what is not there. */
export function systemRows(proof: Proof, bars: readonly BarGeometry[], detail: Detail): SystemRows {
  const highest = bars.reduce(
    (most, { hops }) => hops.reduce((top, hop) => Math.max(top, hop.heightPx), most),
    0,
  );
  const rows = detail === 'near' ? NEAR_ROWS : pageRows(detail, Math.max(LEAST_TOP_PX, Math.ceil(highest)));
  const hasHoldWords = bars.some(({ barIndex }) =>
    proof.piece.bars[barIndex]?.holds?.some(({ kind }) => kind === 'hold'),
  );
  return {
    rows,
    abovePx: roomAbove(proof, bars, rows),
    belowPx: detail === 'near' ? 66 : hasHoldWords ? 38 : 24,
  };
}

/** Pixels above the line that what stands there needs. */
export function roomAbove(proof: Proof, bars: readonly BarGeometry[], rows: LineRows): number {
  return Math.ceil(3 - placeAbove({ ...proof, bars, rows }).topY);
}

/** Pixels above a line with two rows of signs: more is seldom needed. */
export const TWO_ROWS_PX = 3 + NEAR_ROWS.tempoSize - NEAR_ROWS.upperTempoY;
