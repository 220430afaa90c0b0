import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { saveOpenPiece } from '../store/autosave.ts';
import { sendWaitingDone } from '../store/doneLog.ts';
import { sendWaitingRuns } from '../store/runLog.ts';
import type { AppStore } from '../store/store.ts';

/** What an earlier visit could not send, or who was no longer signed in, is sent once it is known who is here. */
export function useSentWaiting(): void {
  const { getState, dispatch } = useStore() as AppStore;
  useEffect(() => {
    void saveOpenPiece(getState, dispatch);
    void sendWaitingRuns(dispatch);
    void sendWaitingDone(dispatch);
  }, [getState, dispatch]);
}
