import { spawn } from 'node:child_process';
import { ROOT } from './fresh.mjs';

/** Runs a command in the project's root, its output shown; resolves to its exit code. */
export function run(command, args, { env = {}, quiet = false, onOutput } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: ['ignore', quiet || onOutput ? 'pipe' : 'inherit', quiet || onOutput ? 'pipe' : 'inherit'],
    });
    let kept = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream?.on('data', (data) => {
        kept += data;
        onOutput?.(data);
      });
    }
    child.on('error', reject);
    child.on('close', (code) => {
      if (quiet && code !== 0) process.stderr.write(kept);
      resolve(code ?? 1);
    });
  });
}

/** The same, but a failure ends the script with one sentence. */
export async function runOrStop(command, args, sentence, options) {
  if ((await run(command, args, options)) !== 0) stop(sentence);
}

/** Ends the script with one sentence that says what to do. */
export function stop(sentence) {
  console.error(sentence);
  process.exit(1);
}
