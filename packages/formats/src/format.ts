import type { Piece, Problem } from '@anchorbeat/core';

/** One thing worth telling about a reading, with the printed number of its bar where it has one. */
export interface ReadingNote {
  readonly says: string;
  readonly bar?: string;
}

/** What became of a file that says more, or less, than a piece holds. */
export interface ReadingNotes {
  /** In a few words: "64 bars", "3 tempo marks". */
  readonly read: readonly string[];
  readonly guessed: readonly ReadingNote[];
  readonly leftOut: readonly ReadingNote[];
  /** Where the file contradicts itself, and what was believed. */
  readonly findings: readonly ReadingNote[];
}

/** What came of reading a file: a piece, or everything found wrong with it. */
export type FileReading =
  | { readonly ok: true; readonly piece: Piece; readonly notes?: ReadingNotes }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** Called now and then while a long file is read, with the share that is done. */
export type OnProgress = (share: number) => void;

/** A file format. Bytes in, bytes out: no file system, no page. */
export interface FileFormat {
  readonly id: string;
  readonly name: string;
  /** File endings with their point, the usual one first. */
  readonly endings: readonly string[];
  readonly mediaType: string;
  readonly read: (bytes: Uint8Array, onProgress?: OnProgress) => FileReading;
  readonly write: (piece: Piece) => Uint8Array;
}

export function refusedFile(message: string, bar?: string): FileReading {
  return { ok: false, problems: [{ message, field: 'file', ...(bar !== undefined && { bar }) }] };
}
