import { writePiece } from '@anchorbeat/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { api, problemText, staleProblemOf } from './api.ts';
import { keepDraft } from './drafts.ts';
import {
  edited,
  opened,
  rebased,
  redone,
  saved,
  saveStateChanged,
  undone,
  type OpenPiece,
} from './pieceSlice.ts';
import type { AppDispatch, RootState } from './store.ts';
import { uuid } from './uuid.ts';

const SETTLE_MS = 400;
const RETRY_MS = 3000;
const MAX_EDITS_SENT = 500;

/** Saves the open piece shortly after every change, one save at a time, until the server has acknowledged it. */
export const autosave = createListenerMiddleware();

const startListening = autosave.startListening.withTypes<RootState, AppDispatch>();

startListening({
  matcher: isAnyOf(opened, edited, undone, redone, rebased, saved),
  effect: async (_action, { getState, dispatch, cancelActiveListeners, delay }) => {
    const { open } = getState().piece;
    if (!open) return;
    keepDraft(open);
    if (open.save.kind !== 'waiting') return;
    cancelActiveListeners();
    await delay(SETTLE_MS);
    await saveOpenPiece(getState, dispatch);
  },
});

let saving: Promise<void> | null = null;

/** Sends what is unsaved; the caller may await it. A second call while one is under way joins it. */
export function saveOpenPiece(getState: () => RootState, dispatch: AppDispatch): Promise<void> {
  saving ??= sendUntilAcknowledged(getState, dispatch).finally(() => {
    saving = null;
  });
  return saving;
}

async function sendUntilAcknowledged(getState: () => RootState, dispatch: AppDispatch): Promise<void> {
  for (;;) {
    const { open } = getState().piece;
    if (!open || open.save.kind !== 'waiting') return;
    dispatch(saveStateChanged({ kind: 'saving' }));
    if (!(await sendOnce(open, getState, dispatch))) return;
  }
}

/** Sends one state of the piece under one id, again and again while the server does not answer. */
async function sendOnce(open: OpenPiece, getState: () => RootState, dispatch: AppDispatch): Promise<boolean> {
  const request = {
    pieceId: open.id,
    id: uuid(),
    basedOnRevision: open.revision,
    piece: writePiece(open.present),
    edits: open.unsavedEdits.slice(-MAX_EDITS_SENT).map((edit) => edit.slice(0, 500)),
  };
  for (;;) {
    const result = await dispatch(api.endpoints.saveRevision.initiate(request, { track: false }));
    if (getState().piece.open?.id !== open.id) return false;
    if (!result.error) {
      dispatch(saved({ revision: result.data.revision, editCount: open.unsavedEdits.length }));
      return true;
    }
    const stale = staleProblemOf(result.error);
    const status = (result.error as { status?: unknown }).status;
    if (stale) {
      dispatch(
        saveStateChanged({
          kind: 'stale',
          currentRevision: stale.currentRevision,
          differences: stale.differences,
        }),
      );
      return false;
    }
    if (typeof status === 'number' && status < 500 && status !== 429) {
      dispatch(saveStateChanged({ kind: 'refused', reason: problemText(result.error) }));
      return false;
    }
    dispatch(saveStateChanged({ kind: 'retrying', reason: problemText(result.error) }));
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    if (getState().piece.open?.id !== open.id) return false;
  }
}
