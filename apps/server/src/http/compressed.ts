import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { extname, join, normalize } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import type { NextFunction, Request, RequestHandler, Response } from 'express';

/** How a file may be packed, the smallest first: what the browser calls it, and the end of the file's name. */
const PACKINGS = [
  { encoding: 'br', ending: '.br' },
  { encoding: 'gzip', ending: '.gz' },
] as const;

interface KeptFile {
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
  const kept = new Map<string, KeptFile>();
  const keep = (file: string): KeptFile => {
    const bytes = readFileSync(file);
    const tag = `"${createHash('sha256').update(bytes).digest('base64url')}"`;
    kept.set(file, { bytes, tag });
    return { bytes, tag };
  };
  return (request: Request, response: Response, next: NextFunction) => {
    const isRead = request.method === 'GET' || request.method === 'HEAD';
    const path = safePathMaybe(request.path);
    if (!isRead || path === null) return void next();
    const fileOf = (ending: string) => join(folder, `${path}${ending}`);
    const packing = PACKINGS.find(
      ({ encoding, ending }) =>
        request.acceptsEncodings(encoding) === encoding &&
        (kept.has(fileOf(ending)) || existsSync(fileOf(ending))),
    );
    if (!packing) return void next();
    const file = fileOf(packing.ending);
    response.setHeader('Content-Encoding', packing.encoding);
    response.setHeader('Vary', 'Accept-Encoding');
    response.type(extname(path));
    if (neverChanges(path)) {
      const { bytes, tag } = kept.get(file) ?? keep(file);
      response.setHeader('Cache-Control', FOR_GOOD);
      response.setHeader('ETag', tag);
      response.send(bytes);
      return;
    }
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(file, { cacheControl: false }, (error) => {
      if (error && !response.headersSent) next(error);
    });
  };
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
