import type { Piece } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { useAppSelector } from '../store/store.ts';

/** The piece as it now is. What is drawn and heard follows as soon as it is compiled; the keys do not wait for that. */
export function usePresent(): Piece {
  const { piece } = useProof();
  return useAppSelector((state) => state.piece.open?.present) ?? piece;
}
