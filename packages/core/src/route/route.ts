import type { Piece } from '../piece/piece.ts';

/** The order in which bars are performed. Parallel arrays, one entry a performed bar. */
export interface Route {
  readonly barIndex: Int32Array;
  /** Which time through the written bar this is, from 1. */
  readonly pass: Int32Array;
}

/** Every written bar once, in order. */
export function routeOf(piece: Piece): Route {
  const length = piece.bars.length;
  return {
    barIndex: Int32Array.from({ length }, (_, index) => index),
    pass: new Int32Array(length).fill(1),
  };
}
