import {
  mergePiecesMaybe,
  mergePiecesPreferring,
  writePiece,
  type Piece,
  type Preferred,
} from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { v5 as namedUuid } from 'uuid';
import { keptAnew } from '../kept/offline.ts';
import { api, problemText, staleProblemOf } from './api.ts';
import { pageDrafts, type InFlight } from './draftStore.ts';
import { isSamePiece, pieceOf } from './openingState.ts';
import {
  draftKept,
  edited,
  merged,
  opened,
  redone,
  saved,
  saveStateChanged,
  undone,
  type OpenPiece,
  type SaveState,
} from './pieceSlice.ts';
import { sendUntilAnswered } from './sending.ts';
import type { AppDispatch, RootState } from './store.ts';

const SETTLE_MS = 400;
const RETRY_MS = 3000;
const MAX_EDITS_SENT = 500;

/** Saves the open piece shortly after every change, one save at a time, until the server has acknowledged it. */
export const autosave = createListenerMiddleware();

const startListening = autosave.startListening.withTypes<RootState, AppDispatch>();

startListening({
  matcher: isAnyOf(opened, edited, undone, redone, merged, saved),
  effect: async (action, { getState, dispatch, cancelActiveListeners, delay }) => {
    const { open } = getState().piece;
    if (!open) return;
    if (saved.match(action) && open.unsavedEdits.length === 0) void letGoOnceKept(open, getState, dispatch);
    else void keepDraft(open, getState, dispatch);
    if (open.save.kind !== 'waiting') return;
    cancelActiveListeners();
    await delay(SETTLE_MS);
    await saveOpenPiece(getState, dispatch);
  },
});

/** What of each piece is on its way to the server, or may have reached it without anybody here knowing. */
const inFlight = new Map<string, InFlight>();

/** What was sent of a piece before this window opened it, and may be saved: its own draft says so. */
export function sentBefore(id: string, sent: InFlight): void {
  inFlight.set(id, sent);
}

async function keepDraft(open: OpenPiece, getState: () => RootState, dispatch: AppDispatch): Promise<void> {
  const isKept = await pageDrafts().keep(open, inFlight.get(open.id) ?? null);
  const now = getState().piece.open;
  if (now?.id === open.id && now.isKeptHere !== isKept) dispatch(draftKept(isKept));
}

/**
 * Where there is no server the piece opens with the answer that is kept: until that is as new as what was saved, the draft
 * stays, and what was saved is there without one too.
 */
async function letGoOnceKept(
  { id, revision }: OpenPiece,
  getState: () => RootState,
  dispatch: AppDispatch,
): Promise<void> {
  const isKept = await keptAnew<PieceResponse>(`/api/pieces/${id}`, (answer) => answer.revision >= revision);
  const now = getState().piece.open;
  if (isKept && now?.id === id && now.unsavedEdits.length === 0) await keepDraft(now, getState, dispatch);
}

const saving = new Map<string, Promise<void>>();

/** Sends what is unsaved; the caller may await it. A second call for the same piece while one is under way joins it. */
export function saveOpenPiece(getState: () => RootState, dispatch: AppDispatch): Promise<void> {
  const id = getState().piece.open?.id;
  if (id === undefined) return Promise.resolve();
  const underWay =
    saving.get(id) ?? sendUntilAcknowledged(id, getState, dispatch).finally(() => saving.delete(id));
  saving.set(id, underWay);
  return underWay;
}

async function sendUntilAcknowledged(
  id: string,
  getState: () => RootState,
  dispatch: AppDispatch,
): Promise<void> {
  for (;;) {
    const { open } = getState().piece;
    if (open?.id !== id || open.save.kind !== 'waiting') return;
    dispatch(saveStateChanged({ kind: 'saving' }));
    if (!(await sendOnce(open, getState, dispatch))) return;
  }
}

/** A save as it is sent. Its id follows from what is saved on what, so that the same save never counts twice, nor as another's. */
export function saveRequest({ id, revision, present, unsavedEdits }: OpenPiece) {
  const piece = writePiece(present);
  return {
    pieceId: id,
    id: namedUuid(JSON.stringify([revision, piece]), id),
    basedOnRevision: revision,
    piece,
    edits: unsavedEdits.slice(-MAX_EDITS_SENT).map((edit) => edit.slice(0, 500)),
  };
}

/** Sends one state of the piece again and again while the server does not answer. True where there may be more to send. */
async function sendOnce(open: OpenPiece, getState: () => RootState, dispatch: AppDispatch): Promise<boolean> {
  const request = saveRequest(open);
  const isOpen = () => getState().piece.open?.id === open.id;
  const before = inFlight.get(open.id) ?? null;
  inFlight.set(open.id, { piece: open.present, editCount: open.unsavedEdits.length });
  void keepDraft(getState().piece.open ?? open, getState, dispatch);
  const answer = await sendUntilAnswered({
    send: () => dispatch(api.endpoints.saveRevision.initiate(request, { track: false })),
    isWanted: isOpen,
    onRetry: (reason) => dispatch(saveStateChanged({ kind: 'retrying', reason })),
    retryMs: RETRY_MS,
  });
  if (!answer) return false;
  inFlight.delete(open.id);
  if (answer.kind === 'signed out') {
    // Who signs in again sends it; whether the one before has arrived is as unknown as it was.
    if (before) inFlight.set(open.id, before);
    if (isOpen()) dispatch(saveStateChanged({ kind: 'waiting' }));
    return false;
  }
  if (answer.kind === 'kept') {
    dispatch(saved({ revision: answer.data.revision, editCount: open.unsavedEdits.length }));
    return true;
  }
  if (before && (await hasArrived(open, before, answer.error, dispatch)) && isOpen()) {
    dispatch(saved({ revision: open.revision + 1, editCount: before.editCount }));
    return true;
  }
  if (await mergeWithNewest(open, answer.error, getState, dispatch)) return true;
  const state = staleMaybe(answer.error) ?? (await wentBackMaybe(open, dispatch));
  const refused: SaveState = state ?? { kind: 'refused', reason: problemText(answer.error) };
  if (isOpen()) dispatch(saveStateChanged(refused));
  return false;
}

function staleMaybe(error: unknown): SaveState | null {
  const stale = staleProblemOf(error);
  if (!stale) return null;
  const { currentRevision, differences, isBaseGone } = stale;
  return { kind: 'stale', currentRevision, differences, isBaseGone };
}

/** A server that was set back as a whole has not come to the revision that this grew from: somebody has to choose. */
async function wentBackMaybe({ id, revision }: OpenPiece, dispatch: AppDispatch): Promise<SaveState | null> {
  const asked = api.endpoints.getPiece.initiate(id, { subscribe: false, forceRefetch: true });
  const { data } = await dispatch(asked);
  if (!data || data.revision >= revision) return null;
  const differences = [`A backup was brought back: the piece is as it was at revision ${data.revision}`];
  return { kind: 'stale', currentRevision: data.revision, differences, isBaseGone: true };
}

/** Whether the save that came in between is what was sent from here before, of which nobody here had heard. */
async function hasArrived(
  { id, revision }: OpenPiece,
  { piece }: InFlight,
  error: unknown,
  dispatch: AppDispatch,
): Promise<boolean> {
  const next = staleProblemOf(error) ? await fetchRevision(dispatch, id, revision + 1) : null;
  return next !== null && isSamePiece(next, piece);
}

/** Where another window saved first and touched other bars, both are put together. False where somebody has to choose. */
async function mergeWithNewest(
  open: OpenPiece,
  error: unknown,
  getState: () => RootState,
  dispatch: AppDispatch,
): Promise<boolean> {
  const stale = staleProblemOf(error);
  if (!stale || stale.isBaseGone) return false;
  const [base, theirs] = await Promise.all(
    [open.revision, stale.currentRevision].map((revision) => fetchRevision(dispatch, open.id, revision)),
  );
  const now = getState().piece.open;
  if (!base || !theirs || now?.id !== open.id || now.revision !== open.revision) return false;
  const piece = mergePiecesMaybe(base, now.present, theirs);
  if (piece) dispatch(merged({ piece, revision: stale.currentRevision }));
  return piece !== null;
}

/**
 * Goes on after two windows changed the same: one's version of what both changed, and of everything else the version of whoever
 * changed it. Gives what keeps it from being done; null where it was.
 */
export async function settleStale(
  preferred: Preferred,
  getState: () => RootState,
  dispatch: AppDispatch,
): Promise<'not answered' | 'not together' | null> {
  const { open } = getState().piece;
  if (open?.save.kind !== 'stale') return null;
  const { currentRevision, isBaseGone } = open.save;
  const [base, theirs] = await Promise.all([
    isBaseGone ? null : fetchRevision(dispatch, open.id, open.revision),
    fetchRevision(dispatch, open.id, currentRevision),
  ]);
  if (!theirs || !(base || isBaseGone)) return 'not answered';
  if (!base) {
    const taken = preferred === 'theirs' ? 'theirs' : 'mine';
    dispatch(merged({ piece: taken === 'theirs' ? theirs : open.present, revision: currentRevision, taken }));
    return null;
  }
  const piece = mergePiecesPreferring(base, open.present, theirs, preferred);
  if (!piece) return 'not together';
  dispatch(merged({ piece, revision: currentRevision }));
  return null;
}

/** A revision as the server has it; null where it has none, or does not answer. */
export async function fetchRevision(
  dispatch: AppDispatch,
  id: string,
  revision: number,
): Promise<Piece | null> {
  const asked = dispatch(api.endpoints.getRevision.initiate({ id, revision }, { subscribe: false }));
  const { data } = await asked;
  try {
    return data ? pieceOf(data) : null;
  } catch {
    return null;
  }
}
