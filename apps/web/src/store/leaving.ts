import { ACCOUNT_HEADER } from '@anchorbeat/contract';
import { saveOpenPiece, saveRequest } from './autosave.ts';
import { keepSteps } from './keptSteps.ts';
import type { OpenPiece } from './pieceSlice.ts';
import { unkeptDates } from './seasonApi.ts';
import type { AppStore } from './store.ts';
import { senderHere } from './visitorSlice.ts';

/** Browsers send no more than this with a page that is going away. */
const MOST_LAST_BYTES = 60_000;

/**
 * What happens to unsaved work when the page is hidden, left or closed: it is sent at once, and the draft stays until it is
 * acknowledged; what can be undone is kept for this window's reload. Where it is neither kept here nor on the server the browser
 * asks before it closes. Dates that wait for an answer, or for their turn, are sent as they were changed last.
 */
export function watchLeaving(store: AppStore, page: Window = window): void {
  page.addEventListener('pagehide', () => {
    const { open } = store.getState().piece;
    keepSteps(open);
    // What somebody else did is not sent as one's own.
    const sender = store.dispatch(senderHere);
    if (!sender) return;
    const send: Send = (path, method, content) => sendWithPage(path, method, content, sender.accountId);
    sendLast(open, send);
    for (const { path, date } of unkeptDates()) send(path, 'PUT', date);
  });
  page.document.addEventListener('visibilitychange', () => {
    if (page.document.visibilityState === 'hidden') void saveOpenPiece(store.getState, store.dispatch);
  });
  page.addEventListener('beforeunload', (event) => {
    if (wouldBeLost(store.getState().piece.open)) event.preventDefault();
  });
}

function wouldBeLost(open: OpenPiece | null): boolean {
  return open !== null && open.unsavedEdits.length > 0 && !open.isKeptHere;
}

type Send = (path: string, method: 'POST' | 'PUT', content: object) => void;

function sendLast(open: OpenPiece | null, send: Send): void {
  if (!open || open.unsavedEdits.length === 0 || open.save.kind === 'stale') return;
  const { pieceId, ...request } = saveRequest(open);
  send(`pieces/${pieceId}/revisions`, 'POST', request);
}

/** Sends what the browser goes on with after the page has gone. Nobody hears the answer. */
function sendWithPage(path: string, method: 'POST' | 'PUT', content: object, accountId: string | null): void {
  const body = JSON.stringify(content);
  if (body.length > MOST_LAST_BYTES) return;
  fetch(`/api/${path}`, {
    method,
    headers: {
      'Content-Type': 'application/json',
      ...(accountId !== null && { [ACCOUNT_HEADER]: accountId }),
    },
    body,
    keepalive: true,
  }).catch(() => undefined);
}
