import type { Piece } from '@anchorbeat/core';
import { refusedFile, type FileReading, type OnProgress } from './format.ts';
import { FILE_FORMATS, formatOfFileMaybe } from './formats.ts';

/** Reads a file by its ending: a piece, or everything found wrong with it. */
export function readFileNamed(name: string, bytes: Uint8Array, onProgress?: OnProgress): FileReading {
  const format = formatOfFileMaybe(name);
  if (format) return format.read(bytes, onProgress);
  const endings = FILE_FORMATS.flatMap((known) => known.endings).join(', ');
  return refusedFile(`"${name}" has an ending that is not known: open one of ${endings}`);
}

/** A piece as a file of a format. Throws a RangeError where there is no such format. */
export function writeFileAs(formatId: string, piece: Piece): Uint8Array {
  const format = FILE_FORMATS.find(({ id }) => id === formatId);
  if (!format) throw new RangeError(`there is no format "${formatId}"`);
  return format.write(piece);
}
