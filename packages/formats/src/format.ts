import type { Piece, Problem } from '@anchorbeat/core';

/** What came of reading a file: a piece, or everything found wrong with it. */
export type FileReading =
  | { readonly ok: true; readonly piece: Piece }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** A file format. Bytes in, bytes out: no file system, no page. */
export interface FileFormat {
  readonly id: string;
  readonly name: string;
  /** File endings with their point, the usual one first. */
  readonly endings: readonly string[];
  readonly read: (bytes: Uint8Array) => FileReading;
  readonly write: (piece: Piece) => Uint8Array;
}
