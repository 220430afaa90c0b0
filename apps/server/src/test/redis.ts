import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';

const PROGRAM = '/usr/bin/redis-server';

/** Whether there is a Redis to test with: `npm test` installs Debian's where it may. */
export const HAS_REDIS = existsSync(PROGRAM);

/** A Redis of a test's own, on a free port, keeping nothing. */
export interface TestRedis {
  readonly url: string;
  readonly kill: () => Promise<void>;
}

export async function startTestRedis(port?: number): Promise<TestRedis> {
  const at = port ?? (await freePort());
  const settings = ['--port', String(at), '--bind', '127.0.0.1', '--save', '', '--appendonly', 'no'];
  const child = spawn(PROGRAM, settings, { stdio: ['ignore', 'pipe', 'inherit'] });
  await readyToAccept(child);
  return {
    url: `redis://127.0.0.1:${at}`,
    kill: async () => {
      const ended = once(child, 'exit');
      child.kill('SIGKILL');
      await ended;
    },
  };
}

function readyToAccept(child: ChildProcess): Promise<void> {
  return new Promise((resolve, reject) => {
    child.stdout?.on('data', (text: Buffer) => {
      if (text.toString().includes('Ready to accept connections')) resolve();
    });
    child.once('exit', () => reject(new Error('Redis ended before it was ready')));
  });
}

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  server.close();
  await once(server, 'close');
  return port;
}
