import { existsSync } from 'node:fs';
import { extname, join, normalize } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import type { NextFunction, Request, RequestHandler, Response } from 'express';

/** How a file may be packed, the smallest first: what the browser calls it, and the end of the file's name. */
const PACKINGS = [
  { encoding: 'br', ending: '.br' },
  { encoding: 'gzip', ending: '.gz' },
] as const;

/**
 * Sends a file of the web app as it was packed when it was built, where the browser can unpack that; anything else goes on
 * to whoever sends files as they are. `lifetime` says what may be kept for good, by path.
 */
export function sendCompressed(folder: string, lifetime: (path: string) => string): RequestHandler {
  return (request: Request, response: Response, next: NextFunction) => {
    const isRead = request.method === 'GET' || request.method === 'HEAD';
    const path = safePathMaybe(request.path);
    if (!isRead || path === null) return void next();
    const packing = PACKINGS.find(
      ({ encoding, ending }) =>
        request.acceptsEncodings(encoding) === encoding && existsSync(join(folder, `${path}${ending}`)),
    );
    if (!packing) return void next();
    response.setHeader('Content-Encoding', packing.encoding);
    response.setHeader('Vary', 'Accept-Encoding');
    response.setHeader('Cache-Control', lifetime(path));
    response.type(extname(path));
    response.sendFile(join(folder, `${path}${packing.ending}`), { cacheControl: false }, (error) => {
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
