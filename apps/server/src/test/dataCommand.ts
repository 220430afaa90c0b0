import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { text } from 'node:stream/consumers';

const COMMANDS = new URL('../../../../scripts/dataCommands.mjs', import.meta.url).href;

/** Runs a command on a server's data as the command line does, with something piped in; gives what it printed on either side. */
export async function dataCommand(name: string, args: readonly string[], piped = ''): Promise<string> {
  const program = `
    const { dataCommands } = await import(${JSON.stringify(COMMANDS)});
    process.exitCode = await dataCommands[${JSON.stringify(name)}](process.argv.slice(1));`;
  const child = spawn(process.execPath, ['--input-type=module', '-e', program, '--', ...args]);
  child.stdin.end(piped);
  const [said, complained] = await Promise.all([
    text(child.stdout),
    text(child.stderr),
    once(child, 'close'),
  ]);
  return said + complained;
}
