import type { PieceResponse } from '@anchorbeat/contract';
import { useEffect, useState } from 'react';
import { Outlet, useOutletContext, useParams } from 'react-router';
import type { Proof } from '@anchorbeat/core';
import { useCompiled } from '../compiled/useCompiled.ts';
import { problemText, useGetPieceQuery } from '../store/api.ts';
import { fetchRevision, sentBefore } from '../store/autosave.ts';
import { keepOffline } from '../kept/offline.ts';
import { pageDrafts } from '../store/draftStore.ts';
import { gathered, openingState } from '../store/openingState.ts';
import { keptSteps } from '../store/keptSteps.ts';
import { opened, type Opened } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector, type AppDispatch } from '../store/store.ts';
import { NotHere } from '../ui/NotHere.tsx';
import { useSavedMeanwhile } from './useSavedElsewhere.ts';

/** Opens the piece of the address for the screens under it; Map and Podium share it without loading again. */
export function PieceLayout() {
  const { pieceId = '' } = useParams();
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => (state.piece.open?.id === pieceId ? state.piece.open : null));
  const isOpen = open !== null;
  const query = useGetPieceQuery(pieceId, { refetchOnMountOrArgChange: true, skip: isOpen });
  const [failure, setFailure] = useState('');
  useEffect(() => {
    if (isOpen || !query.currentData || query.isFetching) return undefined;
    let isWanted = true;
    openedPiece(query.currentData, dispatch).then(
      (state) => isWanted && dispatch(opened(state)),
      (error: unknown) => isWanted && setFailure((error as Error).message),
    );
    return () => {
      isWanted = false;
    };
  }, [isOpen, query.currentData, query.isFetching, dispatch]);
  useSavedMeanwhile();
  const proof = useCompiled(open?.present ?? null, pieceId);
  if (!isOpen && (query.error || failure)) return <NotHere reason={failure || problemText(query.error)} />;
  if (!open || !proof) return <p className="p-10 text-quiet">Opening the piece …</p>;
  return <Outlet context={proof} />;
}

export function useProof(): Proof {
  return useOutletContext<Proof>();
}

/** A loaded piece with work this browser still holds for it. */
async function openedPiece(response: PieceResponse, dispatch: AppDispatch): Promise<Opened> {
  const drafts = pageDrafts();
  const fetch = (revision: number) => fetchRevision(dispatch, response.id, revision);
  const draft = await drafts.takeMaybe(response.id);
  const own = await openingState(response, draft, fetch);
  // Opened without a server nobody can say whether what was sent last has arrived: its next save will.
  if (draft?.inFlight && own.unsavedEdits && own.revision === draft.revision)
    sentBefore(response.id, draft.inFlight);
  const others = await drafts.othersOf(response.id);
  const { state, absorbedKeys } = await gathered(own, response.revision, others, fetch);
  if (absorbedKeys.length > 0) {
    const { revision, piece, unsavedEdits: edits = [] } = state;
    await drafts.absorbed(response.id, { revision, piece, edits, inFlight: null }, absorbedKeys);
  }
  void keepOffline();
  return { ...state, ...keptSteps(state.id, state.piece) };
}
