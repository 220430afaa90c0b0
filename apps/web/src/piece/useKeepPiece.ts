import { writePiece, type Piece } from '@anchorbeat/core';
import type { EnsembleResponse } from '@anchorbeat/contract';
import { useNavigate } from 'react-router';
import { problemText, useCreatePieceMutation } from '../store/api.ts';
import { v4 as uuid } from 'uuid';

/** Puts a new piece on the shelf of an ensemble and opens its map; gives the reason where that fails, else null. */
export function useKeepPiece(ensemble: EnsembleResponse, onKept: () => void) {
  const navigate = useNavigate();
  const [create, { isLoading }] = useCreatePieceMutation();
  const keep = async (piece: Piece): Promise<string | null> => {
    try {
      const made = await create({ id: uuid(), ensembleId: ensemble.id, piece: writePiece(piece) }).unwrap();
      onKept();
      await navigate(`/piece/${made.id}/map`);
      return null;
    } catch (error) {
      return problemText(error);
    }
  };
  return { keep, isLoading };
}
