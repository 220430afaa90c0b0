import type { CompiledPiece, Piece } from '@anchorbeat/core';
import { useEffect, useState } from 'react';
import { compileInWorker } from './compileInWorker.ts';

/** A piece with what was worked out from it: always of one another, never one ahead of the other. */
export interface Proof {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
}

/** The newest proof of a piece; while a new one is on its way, the one before it. Null before the first. */
export function useCompiled(piece: Piece | null): Proof | null {
  const [proof, setProof] = useState<Proof | null>(null);
  useEffect(() => {
    if (!piece) return undefined;
    let isWanted = true;
    void compileInWorker(piece).then((compiled) => {
      if (isWanted) setProof({ piece, compiled });
    });
    return () => {
      isWanted = false;
    };
  }, [piece]);
  return proof;
}
