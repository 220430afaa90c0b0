import type { BarGeometry, CompiledPiece, Piece } from '@anchorbeat/core';
import { rampWedgePaths } from '@anchorbeat/drawing';

interface RampWedgesProps {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
}

/** A thin wedge over every ramp: thicker is faster. */
export function RampWedges({ piece, compiled, bars }: RampWedgesProps) {
  const d = rampWedgePaths(piece, compiled, bars).join('');
  return d === '' ? null : <path d={d} fill="var(--ink)" fillOpacity={0.75} />;
}
