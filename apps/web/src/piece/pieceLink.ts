import { writePiece, type Piece } from '@anchorbeat/core';
import { fileNameOf } from '@anchorbeat/formats';

const MARK = '#piece=';
/** No piece that goes into a link is larger than this once it is unpacked. */
const MOST_BYTES = 4 * 1024 * 1024;

/** A link that carries the whole piece: opened on an Anchorbeat it is shown there before anything is kept. */
export async function carryingLink(piece: Piece, origin: string): Promise<string> {
  const text = new TextEncoder().encode(JSON.stringify(writePiece(piece)));
  const packed = await through(text, new CompressionStream('deflate-raw'), Infinity);
  return `${origin}/${MARK}${base64Url(packed)}`;
}

/** The piece that a link carries, as a file to be opened; null where it carries none that unpacks. */
export async function carriedFileMaybe(hash: string): Promise<File | null> {
  if (!hash.startsWith(MARK)) return null;
  try {
    const packed = fromBase64Url(hash.slice(MARK.length));
    const bytes = await through(packed, new DecompressionStream('deflate-raw'), MOST_BYTES);
    const { title } = JSON.parse(new TextDecoder().decode(bytes)) as { readonly title?: unknown };
    const name = typeof title === 'string' ? fileNameOf(title) : 'piece';
    return new File([bytes], `${name}.anchorbeat.json`);
  } catch {
    return null;
  }
}

/** Whether an address is meant to carry a piece. */
export function isCarryingLink(hash: string): boolean {
  return hash.startsWith(MARK);
}

async function through(
  bytes: Uint8Array<ArrayBuffer>,
  stream: CompressionStream | DecompressionStream,
  most: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const parts: Array<Uint8Array<ArrayBuffer>> = [];
  let total = 0;
  const reader = new Blob([bytes]).stream().pipeThrough(stream).getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    total += value.length;
    if (total > most) throw new RangeError('unpacked, this is larger than any piece in a link');
    parts.push(value);
  }
  return new Uint8Array(await new Blob(parts).arrayBuffer());
}

function base64Url(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');
}

function fromBase64Url(text: string): Uint8Array<ArrayBuffer> {
  return Uint8Array.from(atob(text.replaceAll('-', '+').replaceAll('_', '/')), (letter) =>
    letter.charCodeAt(0),
  );
}
