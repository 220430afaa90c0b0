import { parseArgs } from 'node:util';
import { proofOf } from '@anchorbeat/core';
import { readPcmMaybe, type RecordedWords, type WordIndex } from '@anchorbeat/audio';
import { readFileNamed } from '@anchorbeat/formats';
import { CommandError, type Command, type CommandContext, type ReadPiece } from './command.ts';
import { advise } from './commands/advise.ts';
import { bars } from './commands/bars.ts';
import { bench } from './commands/bench.ts';
import { captions } from './commands/captions.ts';
import { check } from './commands/check.ts';
import { clicks } from './commands/clicks.ts';
import { convert } from './commands/convert.ts';
import { picture } from './commands/picture.ts';
import { render } from './commands/render.ts';
import { seams } from './commands/seams.ts';
import { sheet } from './commands/sheet.ts';
import { simulate } from './commands/simulate.ts';
import { take } from './commands/take.ts';

/** Every command, listed once. */
const COMMANDS: readonly Command[] = [
  bars,
  clicks,
  check,
  seams,
  advise,
  convert,
  render,
  captions,
  sheet,
  picture,
  bench,
  take,
  simulate,
];

/** What a command line touches of the outside. Both throw with a reason a person can read. */
export interface Outside {
  readonly readFile: (file: string) => Uint8Array;
  readonly writeFile: (file: string, parts: Iterable<Uint8Array>) => void;
  readonly print: (text: string) => void;
  readonly complain: (text: string) => void;
  /** A file of the spoken counts: "words.wav" or "words.json". */
  readonly readWords: (name: string) => Uint8Array;
  /** A file of an installed package. */
  readonly readPackageFile: (name: string) => Uint8Array;
}

const REFUSED = 2;

/** Runs one command line; gives its exit status. What is wrong goes to `complain`, and then nothing is written. */
export async function main([name, ...args]: readonly string[], outside: Outside): Promise<number> {
  const command = COMMANDS.find((known) => known.name === name);
  if (!command) {
    outside.complain(usage());
    return name === undefined || name === '--help' ? 0 : REFUSED;
  }
  const printed: string[] = [];
  const line = parsedLine(command, args);
  if (typeof line === 'string') {
    outside.complain(`${line}\n  ${command.usage}\n`);
    return REFUSED;
  }
  const context: CommandContext = {
    ...line,
    read: (file) => readPieceFile(file, outside),
    readText: (file) => new TextDecoder().decode(outside.readFile(file)),
    write: outside.writeFile,
    print: (text) => void printed.push(text),
    remark: outside.complain,
    words: () => spokenWords(outside),
    packageFile: outside.readPackageFile,
  };
  try {
    const status = await command.run(context);
    outside.print(printed.join(''));
    return status;
  } catch (error) {
    if (!(error instanceof CommandError)) throw error;
    outside.complain(`${error.message}\n`);
    return REFUSED;
  }
}

/** What stands on a command line, or what is wrong with it. */
function parsedLine(
  { options = {} }: Command,
  args: readonly string[],
): Pick<CommandContext, 'positionals' | 'options'> | string {
  try {
    const { positionals, values } = parseArgs({ args: [...args], options, allowPositionals: true });
    return { positionals, options: values };
  } catch (error) {
    return (error as Error).message;
  }
}

function usage(): string {
  const width = Math.max(...COMMANDS.map((command) => command.usage.length));
  return `${COMMANDS.map((command) => `  ${command.usage.padEnd(width)}  ${command.says}`).join('\n')}\n`;
}

const MOST_PROBLEMS = 20;

function readPieceFile(file: string, { readFile }: Outside): ReadPiece {
  const reading = readFileNamed(file, readFile(file));
  if (reading.ok) return { ...proofOf(reading.piece), notes: reading.notes ?? null };
  const told = reading.problems
    .slice(0, MOST_PROBLEMS)
    .map(
      ({ bar, field, message }) =>
        `${file}: ${[bar && `bar ${bar}`, field].filter(Boolean).join(', ')}: ${message}`,
    );
  throw new CommandError(told.join('\n'));
}

function spokenWords({ readWords }: Outside): RecordedWords {
  const pcm = readPcmMaybe(readWords('words.wav'));
  if (!pcm) throw new CommandError('The spoken counts are damaged: install Anchorbeat again');
  const index = JSON.parse(new TextDecoder().decode(readWords('words.json'))) as WordIndex;
  return { ...pcm, index };
}
