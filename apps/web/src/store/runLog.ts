import type { RunResponse } from '@anchorbeat/contract';
import type { Draft } from '@reduxjs/toolkit';
import { toast } from '../ui/toast.ts';
import { api, problemText, type LoggingRun } from './api.ts';
import { Outbox } from './outbox.ts';
import { sendUntilAnswered } from './sending.ts';
import type { AppDispatch } from './store.ts';
import { runTakenOver } from './transportSlice.ts';
import { accountHere, senderHere } from './visitorSlice.ts';

const RETRY_MS = 4000;

interface WaitingRun extends LoggingRun {
  /** Whose it is; null where they have no account. */
  readonly by?: string | null;
}

/** Runs that the server has not acknowledged. */
const waiting = new Outbox<WaitingRun>('anchorbeat.runs');

/**
 * Logs a run, or changes one by its id: shown at once, sent until the server has acknowledged it. What is only logged where it is
 * new stays so, also changed, until there is an answer.
 */
export function logRun(
  dispatch: AppDispatch,
  pieceId: string,
  run: RunResponse,
  { onlyNew }: Pick<LoggingRun, 'onlyNew'> = {},
): void {
  show(dispatch, pieceId, run.id, run);
  const by = dispatch(accountHere);
  const asBefore = waiting.itemsOf(by)[run.id]?.onlyNew ?? false;
  waiting.put(run.id, { pieceId, run, by, onlyNew: onlyNew ?? asBefore });
  void sendWaitingRuns(dispatch);
}

/** Runs that were logged or taken out (null) since their list was last asked for, and when: the list that comes may not know of it. */
const changedLately = new Map<
  string,
  { readonly pieceId: string; readonly run: RunResponse | null; readonly atMs: number }
>();

/** Puts into a list that has come what was changed since it was asked for, and what the server has not acknowledged. */
export function showLatest(dispatch: AppDispatch, pieceId: string, askedAtMs: number): void {
  for (const [id, lately] of changedLately) {
    if (lately.pieceId !== pieceId) continue;
    if (lately.atMs < askedAtMs) changedLately.delete(id);
    else show(dispatch, pieceId, id, lately.run);
  }
  for (const [id, { run, ...of }] of Object.entries(waiting.itemsOf(dispatch(accountHere))))
    if (of.pieceId === pieceId) show(dispatch, pieceId, id, run);
}

/** Puts a run into the list that is shown, where one is, or takes it out. */
function show(dispatch: AppDispatch, pieceId: string, id: string, run: RunResponse | null): void {
  changedLately.set(id, { pieceId, run, atMs: Date.now() });
  dispatch(
    api.util.updateQueryData('listRuns', pieceId, (runs) => {
      const at = runs.findIndex((known) => known.id === id);
      const logged = run ? [{ ...run, sections: [...run.sections] } as Draft<RunResponse>] : [];
      runs.splice(at < 0 ? runs.length : at, at < 0 ? 0 : 1, ...logged);
    }),
  );
}

/** Takes a run out of the log. Null, or in the server's words why not. */
export async function removeRun(dispatch: AppDispatch, pieceId: string, id: string): Promise<string | null> {
  waiting.drop(id);
  changedLately.delete(id);
  const result = await dispatch(api.endpoints.removeRun.initiate({ pieceId, id }));
  // What never reached the server is gone from it too.
  const isGone = (result.error as { status?: unknown } | undefined)?.status === 404;
  if (result.error && !isGone) return problemText(result.error);
  show(dispatch, pieceId, id, null);
  return null;
}

/** A run that another page logged is from now on as it logged it, with what only this page says of it. */
function takeOver(dispatch: AppDispatch, pieceId: string, seen: RunResponse, logged: RunResponse): void {
  const said = {
    mark: logged.mark ?? seen.mark,
    note: logged.note || seen.note,
    ratingAfter: logged.ratingAfter ?? seen.ratingAfter,
    take: logged.take ?? seen.take,
    sectionTakes: logged.sectionTakes ?? seen.sectionTakes,
  };
  const isMore = Object.entries(said).some(
    ([name, value]) => (value ?? null) !== (logged[name as keyof typeof said] ?? null),
  );
  const run = isMore ? { ...logged, ...said } : logged;
  show(dispatch, pieceId, run.id, run);
  dispatch(runTakenOver({ pieceId, run }));
  if (isMore) logRun(dispatch, pieceId, run, { onlyNew: false });
}

/** Sends the runs that wait, also from before this window was opened; gives whether any did. */
export function sendWaitingRuns(dispatch: AppDispatch): Promise<boolean> {
  const sender = () => dispatch(senderHere);
  return waiting.send(sender, async (id, item) => {
    const { by: _by, ...logging } = item;
    const { pieceId, run, onlyNew } = logging;
    const send = () => dispatch(api.endpoints.logRun.initiate(logging, { track: false }));
    const isWanted = () => sender() !== null;
    const answer = await sendUntilAnswered({ send, isWanted, retryMs: RETRY_MS });
    // The list may have been fetched before a run of an earlier visit arrived.
    if (answer?.kind === 'kept') {
      show(dispatch, pieceId, id, run);
      if (onlyNew) takeOver(dispatch, pieceId, run, answer.data);
    }
    if (answer?.kind === 'refused') toast(`This run was not logged: ${problemText(answer.error)}`);
    return answer;
  });
}
