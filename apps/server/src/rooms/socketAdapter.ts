import { IoAdapter } from '@nestjs/platform-socket.io';
import type { INestApplicationContext } from '@nestjs/common';
import { SOCKET_PATH } from '@anchorbeat/contract';
import type { Server, ServerOptions } from 'socket.io';

const MOST_BYTES = 64 * 1024;

/** Sockets of this very origin only, small messages, and a lost stand noticed within some seconds. */
export class RoomSocketAdapter extends IoAdapter {
  constructor(
    app: INestApplicationContext,
    private readonly isOurHost: (host: string) => boolean,
  ) {
    super(app);
  }

  override createIOServer(port: number, options?: ServerOptions): Server {
    return super.createIOServer(port, {
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
  }
}
