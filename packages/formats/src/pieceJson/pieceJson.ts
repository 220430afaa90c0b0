import { readPiece, writePiece } from '@anchorbeat/core';
import { parseBoundedJson } from '../boundedJson.ts';
import { refusedFile, type FileFormat, type FileReading } from '../format.ts';

const MAX_BYTES = 8 * 1024 * 1024;

/** Anchorbeat's own piece files: the piece document as UTF-8 JSON. */
export const pieceJson: FileFormat = {
  id: 'piece-json',
  name: 'Anchorbeat piece',
  endings: ['.anchorbeat.json', '.json'],
  mediaType: 'application/json',
  read: readPieceJson,
  write: (piece) => new TextEncoder().encode(`${JSON.stringify(writePiece(piece), null, 1)}\n`),
};

function readPieceJson(bytes: Uint8Array): FileReading {
  if (bytes.length > MAX_BYTES) return refusedFile('This file is larger than 8 MB, which no piece needs');
  try {
    const document = parseBoundedJson(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
    return document.ok
      ? readPiece(document.value)
      : refusedFile(`This is not a piece file: ${document.problem.message}`);
  } catch {
    return refusedFile('This is not a piece file: it is not text in UTF-8');
  }
}
