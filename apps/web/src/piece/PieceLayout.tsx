import { readPiece } from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { useEffect } from 'react';
import { Outlet, useOutletContext, useParams } from 'react-router';
import type { Proof } from '@anchorbeat/core';
import { useCompiled } from '../compiled/useCompiled.ts';
import { problemText, useGetPieceQuery } from '../store/api.ts';
import { takeDraftMaybe } from '../store/drafts.ts';
import { opened } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector, type AppDispatch } from '../store/store.ts';
import { NotHere } from '../ui/NotHere.tsx';

/** Opens the piece of the address for the screens under it; Map and Podium share it without loading again. */
export function PieceLayout() {
  const { pieceId = '' } = useParams();
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => (state.piece.open?.id === pieceId ? state.piece.open : null));
  const isOpen = open !== null;
  const query = useGetPieceQuery(pieceId, { refetchOnMountOrArgChange: true, skip: isOpen });
  useEffect(() => {
    if (!isOpen && query.currentData && !query.isFetching) openPiece(query.currentData, dispatch);
  }, [isOpen, query.currentData, query.isFetching, dispatch]);
  const proof = useCompiled(open?.present ?? null);
  if (query.error && !isOpen) return <NotHere reason={problemText(query.error)} />;
  if (!open || !proof) return <p className="p-10 text-quiet">Opening the piece …</p>;
  return <Outlet context={proof} />;
}

export function useProof(): Proof {
  return useOutletContext<Proof>();
}

/** Puts a loaded piece into the store, with work this browser still holds for it. */
function openPiece(response: PieceResponse, dispatch: AppDispatch): void {
  const { id, ensembleId } = response;
  const draft = takeDraftMaybe(id);
  if (draft) {
    dispatch(
      opened({ id, ensembleId, revision: draft.revision, piece: draft.piece, unsavedEdits: draft.edits }),
    );
    return;
  }
  const reading = readPiece(response.piece);
  if (!reading.ok) throw new Error(`The saved piece does not read: ${reading.problems[0]?.message ?? ''}`);
  dispatch(opened({ id, ensembleId, revision: response.revision, piece: reading.piece }));
}
