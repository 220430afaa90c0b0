import { IoAdapter } from '@nestjs/platform-socket.io';
import type { INestApplicationContext } from '@nestjs/common';
import { SOCKET_PATH } from '@anchorbeat/contract';
import type { Server, ServerOptions } from 'socket.io';
import type { RedisLink } from './redis.ts';
import type { Siblings } from './siblings.ts';

const MOST_BYTES = 64 * 1024;

/** Sockets of this very origin only, small messages, and a lost stand noticed within some seconds. */
export class RoomSocketAdapter extends IoAdapter {
  constructor(
    app: INestApplicationContext,
    private readonly isOurHost: (host: string) => boolean,
    private readonly redis: RedisLink | null,
    private readonly siblings: Siblings,
  ) {
    super(app);
  }

  override createIOServer(port: number, options?: ServerOptions): Server {
    const server = super.createIOServer(port, {
      ...options,
      path: SOCKET_PATH,
      serveClient: false,
      maxHttpBufferSize: MOST_BYTES,
      pingInterval: 5000,
      pingTimeout: 7000,
      allowRequest: ({ headers }, answer) => {
        const { host = '', origin } = headers;
        const isSame = origin === undefined || origin.replace(/^https?:\/\//, '') === host;
        answer(null, isSame && this.isOurHost(host));
      },
    } as ServerOptions);
    if (this.redis) {
      server.adapter(this.redis.adapter);
      this.siblings.meet(server);
    }
    return server;
  }

  override async close(server: Server): Promise<void> {
    await super.close(server);
    this.redis?.close();
  }
}
