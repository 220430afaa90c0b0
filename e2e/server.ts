import { spawn } from 'node:child_process';
import { once } from 'node:events';

export interface Started {
  readonly output: string;
  readonly code: number | null;
  /** Ends it as a power cut would; resolves when it is gone. */
  readonly kill: () => Promise<void>;
}

/** Runs the start script until it says that it is ready, or ends. */
export function start(...args: string[]): Promise<Started> {
  const child = spawn(process.execPath, ['scripts/start.mjs', ...args]);
  const kill = async () => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill('SIGKILL');
    await once(child, 'exit');
  };
  return new Promise((resolve) => {
    let output = '';
    const listen = (data: Buffer) => {
      output += data.toString();
      if (output.includes('is ready')) resolve({ output, code: null, kill });
    };
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    child.on('exit', (code) => resolve({ output, code, kill }));
  });
}
