import { writePiece, type Piece } from '@anchorbeat/core';
import type { EnsembleResponse } from '@anchorbeat/contract';
import { useNavigate } from 'react-router';
import { problemText, useCreatePieceMutation } from '../store/api.ts';
import { v4 as uuid } from 'uuid';

/** Puts new pieces on the shelf of an ensemble; each gives the reason where that fails, else null. */
export function useKeepPiece(ensemble: EnsembleResponse | undefined, onKept: () => void) {
  const navigate = useNavigate();
  const [create, { isLoading }] = useCreatePieceMutation();
  const made = async (piece: Piece) => {
    if (!ensemble) throw new Error('There is no ensemble yet to put it on the shelf of');
    return create({ id: uuid(), ensembleId: ensemble.id, piece: writePiece(piece) }).unwrap();
  };
  /** Opens its map too, as `search` asks for it. */
  const keep = async (piece: Piece, search = ''): Promise<string | null> => {
    try {
      const { id } = await made(piece);
      onKept();
      await navigate(`/piece/${id}/map${search}`);
      return null;
    } catch (error) {
      return problemText(error);
    }
  };
  const put = (piece: Piece): Promise<string | null> => made(piece).then(() => null, problemText);
  return { keep, put, isLoading };
}
