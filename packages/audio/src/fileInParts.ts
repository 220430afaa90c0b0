/** A file that is made piece by piece: its length in bytes is known before the first of them. */
export interface FileInParts {
  readonly lengthBytes: number;
  readonly parts: Iterable<Uint8Array<ArrayBuffer>>;
}

/** A file that is there already. */
export function wholeFile(parts: ReadonlyArray<Uint8Array<ArrayBuffer>>): FileInParts {
  return { lengthBytes: parts.reduce((sum, { length }) => sum + length, 0), parts };
}
