import type { Response } from 'express';

/** The bytes in memory of their own, which can be handed over to a thread. */
export function ownBytes(bytes: Uint8Array): Uint8Array {
  return bytes.byteLength === bytes.buffer.byteLength ? bytes : Uint8Array.from(bytes);
}

/** Tells when nobody waits for an answer any more. */
export function whenGone(response: Response): AbortSignal {
  const gone = new AbortController();
  response.once('close', () => {
    if (!response.writableEnded) gone.abort();
  });
  return gone.signal;
}
