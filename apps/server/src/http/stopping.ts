import type { Server } from 'node:http';

const FINISH_MS = 4000;

/**
 * Lets a server end: what is idle is closed at once, what is under way may finish for four seconds, then it is cut off.
 * Resolves when nothing is connected any more.
 */
export async function endConnections(server: Server, finishMs = FINISH_MS): Promise<void> {
  const ended = new Promise<void>((resolve) => server.close(() => resolve()));
  server.closeIdleConnections();
  const timer = setTimeout(() => server.closeAllConnections(), finishMs);
  await ended;
  clearTimeout(timer);
}
