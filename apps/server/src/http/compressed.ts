import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { extname, join, normalize } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import type { NextFunction, Request, RequestHandler, Response } from 'express';

/** How a file may be packed, the smallest first: what the browser calls it, and the end of the file's name. */
const PACKINGS = [
  { encoding: 'br', ending: '.br' },
  { encoding: 'gzip', ending: '.gz' },
] as const;

interface PackedFile {
  readonly encoding: string;
  readonly bytes: Buffer;
  readonly tag: string;
}

const FOR_GOOD = 'public, max-age=31536000, immutable';

/**
 * Sends a file of the web app as it was packed when it was built, where the browser can unpack that; anything else goes on
 * to whoever sends files as they are. What never changes may be kept for good, and is kept here too: a page asks for dozens
 * of such files at once.
 */
export function sendCompressed(folder: string, neverChanges: (path: string) => boolean): RequestHandler {
  const kept = new Map<string, PackedFile>();
  const packedMaybe = (path: string, request: Request): PackedFile | null => {
    for (const { encoding, ending } of PACKINGS) {
      if (request.acceptsEncodings(encoding) !== encoding) continue;
      const file = join(folder, `${path}${ending}`);
      const packed = kept.get(file) ?? readMaybe(file, encoding);
      if (packed && neverChanges(path)) kept.set(file, packed);
      if (packed) return packed;
    }
    return null;
  };
  return (request: Request, response: Response, next: NextFunction) => {
    const isRead = request.method === 'GET' || request.method === 'HEAD';
    const path = safePathMaybe(request.path);
    const packed = isRead && path !== null ? packedMaybe(path, request) : null;
    if (!packed || path === null) return void next();
    response.setHeader('Content-Encoding', packed.encoding);
    response.setHeader('Vary', 'Accept-Encoding');
    response.setHeader('Cache-Control', neverChanges(path) ? FOR_GOOD : 'no-cache');
    response.setHeader('ETag', packed.tag);
    response.type(extname(path));
    response.send(packed.bytes);
  };
}

/** A packed file that is there; null for one that is not, or for a folder of that name. */
function readMaybe(file: string, encoding: string): PackedFile | null {
  try {
    const bytes = readFileSync(file);
    return { encoding, bytes, tag: `"${createHash('sha256').update(bytes).digest('base64url')}"` };
  } catch {
    return null;
  }
}

/** Answers of many words are packed on their way; files that are made while they are sent go as they are. */
export function packAnswers(): RequestHandler {
  return compression({
    filter: (_request, response) =>
      /^application\/([\w.-]+\+)?json\b/.test(String(response.getHeader('Content-Type'))),
    // Nearly as small as at its best, and soon done.
    brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } },
  });
}

/** A path inside the folder, or null for one that leads out of it or does not read. */
function safePathMaybe(path: string): string | null {
  try {
    const plain = normalize(decodeURIComponent(path));
    return plain.includes('\0') || plain.split(/[\\/]/).includes('..') ? null : plain;
  } catch {
    return null;
  }
}
