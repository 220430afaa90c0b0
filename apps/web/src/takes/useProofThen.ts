import { readPiece, type Proof } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useCompiled } from '../compiled/useCompiled.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { useGetRevisionQuery } from '../store/api.ts';
import { savedRevisionMaybe } from '../store/pieceSlice.ts';
import { useAppSelector } from '../store/store.ts';

/**
 * The open piece as it was when something was played; as it is now where that is the same, is not known or is not to be had. Null
 * until it is worked out.
 */
export function useProofThen(revision: number | null): Proof | null {
  const now = useProof();
  const open = useAppSelector((state) => state.piece.open);
  const id = open?.id ?? '';
  const isNow = revision === null || revision === savedRevisionMaybe(open);
  const { currentData, isError } = useGetRevisionQuery({ id, revision: revision ?? 0 }, { skip: isNow });
  const reading = useMemo(() => currentData && readPiece(currentData.piece), [currentData]);
  const piece = !isNow && reading?.ok ? reading.piece : null;
  const then = useCompiled(piece, `${id} ${revision}`);
  return isNow || isError || reading?.ok === false ? now : then;
}
