import type { IncomingMessage } from 'node:http';

const LOOPBACK_ADDRESS = /^(::1|127\.\d+\.\d+\.\d+|::ffff:127\.\d+\.\d+\.\d+)$/;
export const LOOPBACK_HOST = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/** Whether a request comes from the very machine the server runs on, and not through a proxy on it. */
export function isFromHere({ socket, headers }: IncomingMessage): boolean {
  return (
    LOOPBACK_ADDRESS.test(socket.remoteAddress ?? '') &&
    LOOPBACK_HOST.test(headers.host ?? '') &&
    headers['x-forwarded-for'] === undefined &&
    headers['forwarded'] === undefined
  );
}
