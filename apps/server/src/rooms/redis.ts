import { Logger } from '@nestjs/common';
import { createClient } from '@redis/client';
import { createAdapter } from '@socket.io/redis-adapter';
import { DataFolderError } from '../database/dataFolder.ts';

const CONNECT_MS = 5000;
const LONGEST_WAIT_MS = 2000;

/** Sockets of several processes, joined by a Redis. */
export interface RedisLink {
  readonly adapter: ReturnType<typeof createAdapter>;
  readonly close: () => void;
}

/**
 * Joins this process to the others that serve the same rooms. A Redis that goes away later is looked for until it is back;
 * meanwhile each process serves its own sockets.
 * @throws DataFolderError where it does not answer at the beginning.
 */
export async function redisLink(url: string): Promise<RedisLink> {
  const logger = new Logger('Redis');
  const pub = clientOf(url);
  const sub = pub.duplicate();
  let isJoined = false;
  for (const client of [pub, sub])
    client.on('error', (error: Error) => {
      if (isJoined) logger.warn(error.message);
    });
  const close = () => {
    pub.destroy();
    sub.destroy();
  };
  try {
    await within(CONNECT_MS, Promise.all([pub.connect(), sub.connect()]));
    isJoined = true;
  } catch (error) {
    close();
    throw new DataFolderError(
      `The Redis at ${shownAddress(url)} does not answer (${(error as Error).message}): start it, or start Anchorbeat without ANCHORBEAT_REDIS_URL`,
    );
  }
  return { adapter: createAdapter(calm(pub, logger), sub), close };
}

function clientOf(url: string) {
  try {
    return createClient({
      url,
      socket: { reconnectStrategy: (tries) => Math.min(50 * 2 ** tries, LONGEST_WAIT_MS) },
      disableOfflineQueue: true,
    });
  } catch {
    throw new DataFolderError(
      `ANCHORBEAT_REDIS_URL is not the address of a Redis: write redis://127.0.0.1:6379`,
    );
  }
}

/** What could not be published while Redis was away is no reason to end. */
function calm(client: ReturnType<typeof clientOf>, logger: Logger): typeof client {
  const publish = client.publish.bind(client);
  return Object.defineProperty(client, 'publish', {
    value: (channel: string, message: string | Buffer) =>
      publish(channel, message).catch((error: unknown) => {
        logger.warn(`not told to the other processes: ${(error as Error).message}`);
        return 0;
      }),
  });
}

/** Without what it may have of a password. */
function shownAddress(url: string): string {
  const { host } = new URL(url);
  return host;
}

function within<T>(milliseconds: number, work: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`no answer in ${milliseconds / 1000} s`)), milliseconds);
  });
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}
