import { problemText } from './api.ts';

/** What a mutation of the API resolves to. */
interface Sent<Data> {
  readonly data?: Data;
  readonly error?: unknown;
}

/**
 * The server's final word on something sent: kept, refused for good, or nobody is signed in any more who may send it. Null where
 * nobody wants to know.
 */
export type Answer<Data> =
  | { readonly kind: 'kept'; readonly data: Data }
  | { readonly kind: 'refused' | 'signed out'; readonly error: unknown }
  | null;

interface Sending<Data> {
  /** Sends the same again; the server knows it by its id. */
  readonly send: () => Promise<Sent<Data>>;
  readonly isWanted?: () => boolean;
  /** The server does not answer, or cannot keep it now; in its words why. */
  readonly onRetry?: (reason: string) => void;
  readonly retryMs: number;
  readonly wait?: (milliseconds: number) => Promise<void>;
}

/** Sends something again and again until the server has kept or refused it. Only what can be mended by waiting is sent again. */
export async function sendUntilAnswered<Data>({
  send,
  isWanted = () => true,
  onRetry,
  retryMs,
  wait = pause,
}: Sending<Data>): Promise<Answer<Data>> {
  for (;;) {
    const { data, error } = await send();
    if (!isWanted()) return null;
    if (error === undefined) return { kind: 'kept', data: data as Data };
    if (isFinal(error)) return { kind: statusOf(error) === 401 ? 'signed out' : 'refused', error };
    onRetry?.(problemText(error));
    await wait(retryMs);
    if (!isWanted()) return null;
  }
}

/** A refusal that waiting does not mend: of the request itself, not of its moment. */
function isFinal(error: unknown): boolean {
  const status = statusOf(error);
  return typeof status === 'number' && status < 500 && status !== 429 && status !== 408;
}

function statusOf(error: unknown): unknown {
  return (error as { readonly status?: unknown }).status;
}

function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}
