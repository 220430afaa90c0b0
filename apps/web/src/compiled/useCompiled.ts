import type { Piece, Proof } from '@anchorbeat/core';
import { useEffect, useState } from 'react';
import { toast } from '../ui/toast.ts';
import { compileInWorker } from './compileInWorker.ts';

/**
 * The newest proof of a piece; while a new one is on its way, the one before it. Null before the first. `pieceId` tells pieces
 * apart where one comes after another: none is ever shown as the one before it was.
 */
export function useCompiled(piece: Piece | null, pieceId = ''): Proof | null {
  const [made, setMade] = useState<{ readonly pieceId: string; readonly proof: Proof } | null>(null);
  useEffect(() => {
    if (!piece) return undefined;
    let isWanted = true;
    compileInWorker(piece).then(
      (compiled) => {
        if (isWanted) setMade({ pieceId, proof: { piece, compiled } });
      },
      (error: unknown) => {
        if (isWanted) toast(failureWords(error as Error), { duration: Infinity, id: 'compile' });
      },
    );
    return () => {
      isWanted = false;
    };
  }, [piece, pieceId]);
  return made?.pieceId === pieceId ? made.proof : null;
}

/** The piece is kept as it is; what is shown is what could be worked out last. */
function failureWords({ message }: Error): string {
  return `This piece could not be worked out (${message}). It is kept as it is: undo the last change, or look at the bar named here`;
}
