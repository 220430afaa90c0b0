import type { BarGeometry, CompiledPiece, Piece } from '@anchorbeat/core';
import { rampWedgePaths, type LineRows } from '@anchorbeat/drawing';

interface RampWedgesProps {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
  readonly rows: LineRows;
}

/** A thin wedge over every ramp: thicker is faster. */
export function RampWedges({ piece, compiled, bars, rows }: RampWedgesProps) {
  const d = rampWedgePaths(piece, compiled, bars, rows).join('');
  return d === '' ? null : <path d={d} fill="var(--ink)" fillOpacity={0.75} />;
}
