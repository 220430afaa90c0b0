import { useEffect, useState } from 'react';
import { api } from '../store/api.ts';
import { fetchRevision } from '../store/autosave.ts';
import { renewed } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';

/**
 * Goes on with a revision of the open piece that was saved elsewhere, where it is newer than what is here and nothing here waits
 * to be saved or sounds. 0 is none.
 */
export function useSavedElsewhere(newest: number): void {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.piece.open);
  const isRunning = useAppSelector((state) => state.transport.run !== null);
  const { id = '', revision = 0 } = open ?? {};
  const mayRenew = open?.save.kind === 'saved' && open.unsavedEdits.length === 0 && !isRunning;
  const isOld = mayRenew && newest > revision;
  useEffect(() => {
    if (!isOld) return undefined;
    let isWanted = true;
    void fetchRevision(dispatch, id, newest).then((piece) => {
      if (!isWanted || !piece) return;
      dispatch(renewed({ revision: newest, piece }));
      dispatch(api.util.invalidateTags(['Drills', 'Runs']));
    });
    return () => {
      isWanted = false;
    };
  }, [isOld, id, newest, dispatch]);
}

/** The same whenever somebody comes back to this window, or the network does: whoever worked at another device finds it here. */
export function useSavedMeanwhile(): void {
  const dispatch = useAppDispatch();
  const id = useAppSelector((state) => state.piece.open?.id ?? '');
  const [known, setKnown] = useState({ id: '', revision: 0 });
  useEffect(() => {
    if (id === '') return undefined;
    let [isWanted, isAsking] = [true, false];
    const look = () => {
      // Who comes back is often told of twice.
      if (document.visibilityState === 'hidden' || isAsking) return;
      isAsking = true;
      const asked = dispatch(api.endpoints.getPiece.initiate(id, { forceRefetch: true, subscribe: false }));
      void asked.then(({ data }) => {
        isAsking = false;
        if (isWanted && data) setKnown({ id, revision: data.revision });
      });
    };
    window.addEventListener('focus', look);
    window.addEventListener('online', look);
    document.addEventListener('visibilitychange', look);
    return () => {
      isWanted = false;
      window.removeEventListener('focus', look);
      window.removeEventListener('online', look);
      document.removeEventListener('visibilitychange', look);
    };
  }, [id, dispatch]);
  useSavedElsewhere(known.id === id ? known.revision : 0);
}
