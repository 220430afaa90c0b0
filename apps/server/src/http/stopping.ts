import type { Server } from 'node:http';
import type { Socket } from 'node:net';

const FINISH_MS = 4000;

/**
 * Watches the connections of a server; gives what lets it end: connections that are idle, or never said a word, are closed at
 * once, what is under way may finish for four seconds, then it is cut off. It resolves when nothing is connected any more.
 */
export function watchConnections(server: Server, finishMs = FINISH_MS): () => Promise<void> {
  const sockets = new Set<Socket>();
  server.on('connection', (socket: Socket) => {
    sockets.add(socket);
    socket.once('close', () => sockets.delete(socket));
  });
  return async () => {
    const ended = new Promise<void>((resolve) => server.close(() => resolve()));
    server.closeIdleConnections();
    for (const socket of sockets) if (socket.bytesRead === 0) socket.destroy();
    const timer = setTimeout(() => server.closeAllConnections(), finishMs);
    await ended;
    clearTimeout(timer);
  };
}
