import type { EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import { useMemo } from 'react';
import { Kept, useKept } from '../kept/kept.ts';
import { useLazyListPiecesQuery, useListEnsemblesQuery, useListPiecesQuery } from '../store/api.ts';

/** Whose shelf and season are shown in this browser, by id. */
const keptEnsemble = new Kept('anchorbeat.ensemble', (stored) => (typeof stored === 'string' ? stored : ''));

export interface Chosen {
  /** Undefined until the server has told, and where one leads none. */
  readonly ensemble: EnsembleResponse | undefined;
  readonly ensembles: readonly EnsembleResponse[];
  readonly isNone: boolean;
  readonly choose: (ensembleId: string) => void;
  readonly error: unknown;
}

/** The ensemble one works with: the one that was chosen, else the first of those one leads. */
export function useEnsemble(): Chosen {
  const { data, error } = useListEnsemblesQuery();
  const [id, choose] = useKept(keptEnsemble);
  const ensembles = data ?? [];
  const ensemble = ensembles.find((one) => one.id === id) ?? ensembles[0];
  return { ensemble, ensembles, isNone: data?.length === 0, choose, error };
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
