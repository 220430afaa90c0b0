import Papa from 'papaparse';
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

/** An option of a command, as Node's own reader of command lines takes it. */
interface CommandOption {
  readonly type: 'string' | 'boolean';
}

/** What a command has to work with: everything of the outside. */
export interface CommandContext {
  /** What stands on the line besides its options. */
  readonly positionals: readonly string[];
  readonly options: Readonly<Record<string, string | boolean | undefined>>;
  readonly read: (file: string) => ReadPiece;
  readonly readText: (file: string) => string;
  /** Writes a whole file or nothing of it. */
  readonly write: (file: string, parts: Iterable<Uint8Array>) => void;
  readonly print: (text: string) => void;
  /** Tells something that is no error. */
  readonly remark: (text: string) => void;
  /** The spoken counts that ship with the app. */
  readonly words: () => RecordedWords;
  /** A file of an installed package, such as a font. */
  readonly packageFile: (name: string) => Uint8Array;
}

/** One command: one file with this shape, listed once. Gives its exit status. */
export interface Command {
  readonly name: string;
  readonly usage: string;
  readonly says: string;
  readonly options?: Readonly<Record<string, CommandOption>>;
  readonly run: (context: CommandContext) => number | Promise<number>;
}

/** A row of comma separated values; what has a comma, a quote or a line end in it is quoted. */
export function csvRow(cells: ReadonlyArray<string | number>): string {
  return `${Papa.unparse([[...cells]])}\n`;
}

/** Seconds with twelve decimals: finer than any clock that reads them. */
export function secondsText(seconds: number): string {
  return seconds.toFixed(12);
}

export function argument({ positionals }: CommandContext, index: number, what: string): string {
  const value = positionals[index];
  if (value === undefined) throw new CommandError(`Name ${what}`);
  return value;
}

/** The number given with an option, or what holds without it. */
export function numberOption<N extends number>(
  { options }: CommandContext,
  name: string,
  usual: N,
  isAllowed: (value: number) => value is N,
): N {
  const text = options[name];
  if (text === undefined) return usual;
  const value = Number(text);
  if (text !== '' && isAllowed(value)) return value;
  throw new CommandError(`--${name} cannot be "${text}": write --${name}=${usual}, for example`);
}
