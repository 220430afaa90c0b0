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
  type SaveState,
} from './pieceSlice.ts';
import { sendUntilAnswered } from './sending.ts';
import type { AppDispatch, RootState } from './store.ts';
import { v4 as uuid } from 'uuid';

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
function saveOpenPiece(getState: () => RootState, dispatch: AppDispatch): Promise<void> {
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
  const answer = await sendUntilAnswered({
    send: () => dispatch(api.endpoints.saveRevision.initiate(request, { track: false })),
    isWanted: () => getState().piece.open?.id === open.id,
    onRetry: (reason) => dispatch(saveStateChanged({ kind: 'retrying', reason })),
    retryMs: RETRY_MS,
  });
  if (answer?.kind === 'kept') {
    dispatch(saved({ revision: answer.data.revision, editCount: open.unsavedEdits.length }));
    return true;
  }
  if (answer) dispatch(saveStateChanged(refusedState(answer.error)));
  return false;
}

function refusedState(error: unknown): SaveState {
  const stale = staleProblemOf(error);
  return stale
    ? { kind: 'stale', currentRevision: stale.currentRevision, differences: stale.differences }
    : { kind: 'refused', reason: problemText(error) };
}
