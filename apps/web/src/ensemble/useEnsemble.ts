import type { EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import { useMemo } from 'react';
import { Kept, useKept } from '../kept/kept.ts';
import { useLazyListPiecesQuery, useListEnsemblesQuery, useListPiecesQuery } from '../store/api.ts';

/** Whose shelf and season are shown in this browser, by id. */
const keptEnsemble = new Kept('anchorbeat.ensemble', (stored) => (typeof stored === 'string' ? stored : ''));

interface Chosen {
  /** Undefined until the server has told. */
  readonly ensemble: EnsembleResponse | undefined;
  readonly ensembles: readonly EnsembleResponse[];
  readonly choose: (ensembleId: string) => void;
  readonly error: unknown;
}

/** The ensemble one works with: the one that was chosen, else the first of those one leads. */
export function useEnsemble(): Chosen {
  const { data: ensembles = [], error } = useListEnsemblesQuery();
  const [id, choose] = useKept(keptEnsemble);
  return { ensemble: ensembles.find((one) => one.id === id) ?? ensembles[0], ensembles, choose, error };
}

/** Its pieces, also those that are set aside, asked for anew; undefined until the server has told. */
export function usePiecesOf(ensemble: EnsembleResponse | undefined): {
  readonly pieces: readonly PieceResponse[] | undefined;
  readonly error: unknown;
} {
  const { data, error } = useListPiecesQuery(undefined, { refetchOnMountOrArgChange: true });
  const id = ensemble?.id;
  const pieces = useMemo(() => data?.filter(({ ensembleId }) => ensembleId === id), [data, id]);
  return { pieces: ensemble && pieces, error };
}

/**
 * Fetches the shelf that a piece stands on: the pieces of its ensemble that are not set aside, in order. Null where the
 * server does not answer.
 */
export function useShelfOf(): (pieceId: string) => Promise<readonly PieceResponse[] | null> {
  const [listPieces] = useLazyListPiecesQuery();
  return async (pieceId) => {
    const { data } = await listPieces();
    if (!data) return null;
    const ours = data.find(({ id }) => id === pieceId)?.ensembleId;
    return data.filter(({ ensembleId, isSetAside }) => ensembleId === ours && !isSetAside);
  };
}
