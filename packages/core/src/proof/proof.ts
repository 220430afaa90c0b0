import type { Bar, Piece } from '../piece/piece.ts';
import { barOf } from '../route/route.ts';
import type { CompiledPiece } from '../compile/compile.ts';

/** A piece with what was worked out from it: always of one another, never one ahead of the other. */
export interface Proof {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
}

/** The written bar that a performed bar plays. Throws a RangeError where there is no such performed bar. */
export function writtenBar({ piece, compiled }: Proof, performed: number): Bar {
  return barOf(piece, compiled.timeline.route, performed);
}

/** The same by its index in the piece. */
export function writtenIndex({ compiled }: Pick<Proof, 'compiled'>, performed: number): number {
  const index = compiled.timeline.route.barIndex[performed];
  if (index === undefined) throw new RangeError(`there is no performed bar ${performed}`);
  return index;
}
