const MOST_TEXT = 4000;
const MOST_REPORTS = 10;

let reports = 0;

/** Tells the server's log what went wrong on a page: the error and where, nothing of the piece. A few a visit at most. */
export function reportError(error: Error, where: string): void {
  if (++reports > MOST_REPORTS) return;
  const report = {
    message: error.message.slice(0, MOST_TEXT),
    stack: (error.stack ?? '').slice(0, MOST_TEXT),
    where: where.slice(0, MOST_TEXT),
    address: window.location.pathname.slice(0, MOST_TEXT),
  };
  fetch('/api/reports', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(report),
    keepalive: true,
  }).catch(() => undefined);
}

/** Reports what no screen has caught. */
export function watchErrors(page: Window = window): void {
  page.addEventListener('error', ({ error }) => {
    if (error instanceof Error) reportError(error, 'window');
  });
  page.addEventListener('unhandledrejection', ({ reason }) => {
    if (reason instanceof Error) reportError(reason, 'promise');
  });
}
