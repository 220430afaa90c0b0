import type { Piece, Proof } from '@anchorbeat/core';
import { useEffect, useState } from 'react';
import { compileInWorker } from './compileInWorker.ts';

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
