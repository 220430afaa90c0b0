import type { RunResponse } from '@anchorbeat/contract';
import type { Draft } from '@reduxjs/toolkit';
import { toast } from '../ui/toast.ts';
import { api, problemText } from './api.ts';
import { sendUntilAnswered } from './sending.ts';
import type { AppDispatch } from './store.ts';

const KEY = 'anchorbeat.runs';
const RETRY_MS = 4000;

interface WaitingRun {
  readonly pieceId: string;
  readonly run: RunResponse;
}

/** Runs that the server has not acknowledged, by their id; kept in the browser until it has. */
function waitingRuns(): Record<string, WaitingRun> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, WaitingRun>;
  } catch {
    return {};
  }
}

function keepWaiting(change: (runs: Record<string, WaitingRun>) => void): void {
  const runs = waitingRuns();
  change(runs);
  try {
    localStorage.setItem(KEY, JSON.stringify(runs));
  } catch {
    // The browser's storage is full or closed: the run is still on its way to the server.
  }
}

/** Logs a run, or changes one by its id: shown at once, sent until the server has acknowledged it. */
export function logRun(dispatch: AppDispatch, pieceId: string, run: RunResponse): void {
  show(dispatch, { pieceId, run });
  keepWaiting((runs) => (runs[run.id] = { pieceId, run }));
  void sendWaiting(dispatch);
}

/** Runs that were shown since their list was last asked for, and when: the list that comes may not know them yet. */
const shownLately = new Map<string, WaitingRun & { readonly atMs: number }>();

/** Puts into a list that has come what was logged since it was asked for, and what the server has not acknowledged. */
export function showLatest(dispatch: AppDispatch, pieceId: string, askedAtMs: number): void {
  const waiting = waitingRuns();
  for (const { atMs, ...lately } of shownLately.values())
    if (lately.pieceId === pieceId && atMs < askedAtMs) shownLately.delete(lately.run.id);
  const latest = { ...Object.fromEntries(shownLately), ...waiting };
  for (const one of Object.values(latest)) if (one.pieceId === pieceId) show(dispatch, one);
}

/** Puts a run into the list that is shown, where one is. */
function show(dispatch: AppDispatch, { pieceId, run }: WaitingRun): void {
  shownLately.set(run.id, { pieceId, run, atMs: Date.now() });
  dispatch(
    api.util.updateQueryData('listRuns', pieceId, (runs) => {
      const at = runs.findIndex(({ id }) => id === run.id);
      const logged = { ...run, sections: [...run.sections] } as Draft<RunResponse>;
      if (at >= 0) runs[at] = logged;
      else runs.push(logged);
    }),
  );
}

/** Takes a run out of the log. Null, or in the server's words why not. */
export async function removeRun(dispatch: AppDispatch, pieceId: string, id: string): Promise<string | null> {
  keepWaiting((runs) => delete runs[id]);
  shownLately.delete(id);
  const result = await dispatch(api.endpoints.removeRun.initiate({ pieceId, id }));
  // What never reached the server is gone from it too.
  const isGone = (result.error as { status?: unknown } | undefined)?.status === 404;
  if (result.error && !isGone) return problemText(result.error);
  dispatch(api.util.updateQueryData('listRuns', pieceId, (runs) => runs.filter((run) => run.id !== id)));
  return null;
}

let sending: Promise<void> | null = null;

/** Sends what waits, also from before this window was opened. A second call while one is under way joins it. */
export function sendWaiting(dispatch: AppDispatch): Promise<void> {
  sending ??= sendAll(dispatch).finally(() => {
    sending = null;
  });
  return sending;
}

async function sendAll(dispatch: AppDispatch): Promise<void> {
  for (;;) {
    const next = Object.values(waitingRuns())[0];
    if (!next) return;
    const sent = JSON.stringify(next.run);
    const send = () => dispatch(api.endpoints.logRun.initiate(next, { track: false }));
    const answer = await sendUntilAnswered({ send, retryMs: RETRY_MS });
    // The list may have been fetched before a run of an earlier visit arrived.
    if (answer?.kind === 'kept') show(dispatch, next);
    if (answer?.kind === 'refused') toast(`This run was not logged: ${problemText(answer.error)}`);
    keepWaiting((runs) => {
      if (JSON.stringify(runs[next.run.id]?.run) === sent) delete runs[next.run.id];
    });
  }
}
