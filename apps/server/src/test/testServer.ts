import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import request from 'supertest';

const DEMO_FOLDER = fileURLToPath(new URL('../../../../demo', import.meta.url));
const SERVER = new URL('../../dist/index.js', import.meta.url).href;

export interface TestServer {
  readonly http: ReturnType<typeof request>;
  readonly dataFolder: string;
  /** Ends it as a power cut would, and keeps its data. */
  readonly kill: () => Promise<void>;
  /** Ends it and takes its data away. */
  readonly close: () => Promise<void>;
}

/** The built server in a process of its own, on a free port, with a database of its own. */
export async function startTestServer(
  options: { readonly demo?: boolean; readonly dataFolder?: string } = {},
): Promise<TestServer> {
  const dataFolder = options.dataFolder ?? mkdtempSync(join(tmpdir(), 'anchorbeat-test-'));
  const serverOptions = { port: 0, dataFolder, ...(options.demo && { demoFolder: DEMO_FOLDER }) };
  const program = `
    const { startServer } = await import(${JSON.stringify(SERVER)});
    const app = await startServer(${JSON.stringify(serverOptions)});
    console.log(await app.getUrl());`;
  const child = spawn(process.execPath, ['--input-type=module', '-e', program], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await firstLine(child);
  const kill = async () => {
    const ended = once(child, 'exit');
    child.kill('SIGKILL');
    await ended;
  };
  return {
    http: request(url),
    dataFolder,
    kill,
    close: async () => {
      await kill();
      rmSync(dataFolder, { recursive: true, force: true });
    },
  };
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
