import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import request from 'supertest';

const DEMO_FOLDER = fileURLToPath(new URL('../../../../demo', import.meta.url));
const LOADER = new URL('../../../../scripts/loadServer.mjs', import.meta.url).href;

export interface TestServer {
  /** Requests of whoever sits at the machine, signed in. */
  readonly http: ReturnType<typeof request.agent>;
  /** Requests of somebody who has not signed in. */
  readonly stranger: ReturnType<typeof request>;
  /** The cookie by which `http` is known. */
  readonly cookie: string;
  readonly url: string;
  readonly pid: number;
  readonly dataFolder: string;
  /** Ends it as a power cut would, and keeps its data. */
  readonly kill: () => Promise<void>;
  /** Asks it to end, and keeps its data; gives how long it took, in milliseconds. */
  readonly stop: () => Promise<number>;
  /** Ends it and takes its data away. */
  readonly close: () => Promise<void>;
}

interface TestServerOptions {
  readonly demo?: boolean;
  readonly dataFolder?: string;
  /** The port to listen on again after a restart; a free one where it is not said. */
  readonly port?: number;
  /** Where it serves the same rooms as others. */
  readonly redisUrl?: string | undefined;
}

/** The built server in a process of its own, on a free port, with a database of its own. */
export async function startTestServer(options: TestServerOptions = {}): Promise<TestServer> {
  const dataFolder = options.dataFolder ?? mkdtempSync(join(tmpdir(), 'anchorbeat-test-'));
  const child = spawnServer({ ...options, dataFolder }, 'inherit');
  const url = await firstLine(child);
  const end = async (signal: NodeJS.Signals) => {
    const began = performance.now();
    const ended = child.exitCode === null && child.signalCode === null ? once(child, 'exit') : null;
    child.kill(signal);
    await ended;
    return performance.now() - began;
  };
  const http = request.agent(url);
  const cookie = await signedIn(http);
  return {
    http,
    stranger: request(url),
    cookie,
    url,
    pid: child.pid ?? 0,
    dataFolder,
    kill: () => end('SIGKILL').then(() => undefined),
    stop: () => end('SIGTERM'),
    close: async () => {
      await end('SIGKILL');
      rmSync(dataFolder, { recursive: true, force: true });
    },
  };
}

/** Opens the server from its own machine. Where it has accounts nobody is signed in. */
async function signedIn(http: ReturnType<typeof request.agent>): Promise<string> {
  const answer = await http.post('/api/session/here');
  const [cookie = ''] = (answer.headers['set-cookie'] as unknown as string[] | undefined) ?? [];
  return cookie.split(';', 1)[0] ?? '';
}

/** What a server says that does not start. */
export async function refusedStart(dataFolder: string, redisUrl?: string): Promise<string> {
  const child = spawnServer({ dataFolder, redisUrl }, 'pipe');
  let said = '';
  child.stderr?.on('data', (data: Buffer) => (said += data.toString()));
  child.stdout?.on('data', () => child.kill('SIGKILL'));
  const [code] = (await once(child, 'close')) as [number | null];
  if (code === 0 || code === null) throw new Error('the server started all the same');
  return said;
}

function spawnServer(
  options: TestServerOptions & { readonly dataFolder: string },
  stderr: 'inherit' | 'pipe',
) {
  const { dataFolder, demo, port = 0, redisUrl } = options;
  const serverOptions = { port, dataFolder, redisUrl, ...(demo && { demoFolder: DEMO_FOLDER }) };
  const program = `
    const { loadServer } = await import(${JSON.stringify(LOADER)});
    const app = await loadServer().startServer(${JSON.stringify(serverOptions)});
    process.on('SIGTERM', () => void app.close().then(() => process.exit(0)));
    console.log(app.url);`;
  return spawn(process.execPath, ['--input-type=module', '-e', program], {
    stdio: ['ignore', 'pipe', stderr],
  });
}

async function firstLine(child: ChildProcess): Promise<string> {
  const printed = once(child.stdout!, 'data') as Promise<[Buffer]>;
  const ended = once(child, 'exit').then(() => {
    throw new Error('the server ended before it answered');
  });
  const [data] = await Promise.race([printed, ended]);
  ended.catch(() => undefined);
  return data.toString().trim();
}
