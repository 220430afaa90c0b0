import type { RecordedWords } from '@anchorbeat/audio';
import type { Proof } from '@anchorbeat/core';
import type { ReadingNotes } from '@anchorbeat/formats';

/** What went wrong, told to whoever typed the command. */
export class CommandError extends Error {}

/** A piece from a file, with what was worked out from it. */
export interface ReadPiece extends Proof {
  /** What was guessed, left out or contradicted itself, where the file is not one of ours. */
  readonly notes: ReadingNotes | null;
}

/** What a command has to work with: everything of the outside. */
export interface CommandContext {
  readonly args: readonly string[];
  readonly read: (file: string) => ReadPiece;
  /** Writes a whole file or nothing of it. */
  readonly write: (file: string, bytes: Uint8Array) => void;
  readonly print: (text: string) => void;
  /** Tells something that is no error. */
  readonly remark: (text: string) => void;
  /** The spoken counts that ship with the app. */
  readonly words: () => RecordedWords;
}

/** One command: one file with this shape, listed once. Gives its exit status. */
export interface Command {
  readonly name: string;
  readonly usage: string;
  readonly says: string;
  readonly run: (context: CommandContext) => number;
}

/** A row of comma separated values; what has a comma, a quote or a line end in it is quoted. */
export function csvRow(cells: ReadonlyArray<string | number>): string {
  const quoted = cells.map((cell) => {
    const text = String(cell);
    return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  });
  return `${quoted.join(',')}\n`;
}

/** Seconds with twelve decimals: finer than any clock that reads them. */
export function secondsText(seconds: number): string {
  return seconds.toFixed(12);
}

export function argument({ args }: CommandContext, index: number, what: string): string {
  const value = args.filter((arg) => !arg.startsWith('--'))[index];
  if (value === undefined) throw new CommandError(`Name ${what}`);
  return value;
}

/** The number after an option such as --percent, or what holds without it. */
export function numberOption(
  { args }: CommandContext,
  name: string,
  usual: number,
  allowed: (value: number) => boolean,
): number {
  const option = args.find((arg) => arg === name || arg.startsWith(`${name}=`));
  if (option === undefined) return usual;
  const text = option.includes('=') ? option.slice(name.length + 1) : '';
  const value = Number(text);
  if (text === '' || !allowed(value))
    throw new CommandError(`${name} cannot be "${text}": write ${name}=${usual}, for example`);
  return value;
}
