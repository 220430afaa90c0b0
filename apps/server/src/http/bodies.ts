import type { IncomingMessage } from 'node:http';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { parseBoundedJson } from '@anchorbeat/formats';
import type { NextFunction, Request, Response } from 'express';
import { unavailable, unreadable } from '../problems/problemException.ts';

const JSON_LIMIT = '16mb';
const FILE_LIMIT_BYTES = 33 * 1024 * 1024;
const FILE_TYPE = 'application/octet-stream';
/** So much of files is held at once: two of the largest, or many of the usual size. */
const MOST_HELD_BYTES = 2 * FILE_LIMIT_BYTES;
const COME_BACK_SECONDS = 2;

/** Takes in what is sent: JSON, looked at for its depth before it is parsed, and files, a few at a time. */
export function takeInBodies(app: NestExpressApplication): void {
  app.use(fewUploads());
  app.useBodyParser('raw', { limit: JSON_LIMIT, type: isJson });
  app.use(parseJson);
  app.use(takeInFile);
  app.useBodyParser('raw', { limit: FILE_LIMIT_BYTES, type: FILE_TYPE });
}

function isJson({ headers }: IncomingMessage): boolean {
  return /^application\/([\w.-]+\+)?json\b/i.test(headers['content-type'] ?? '');
}

function parseJson(request: Request, _response: Response, next: NextFunction): void {
  const bytes: unknown = request.body;
  if (!(bytes instanceof Uint8Array) || !isJson(request)) {
    next();
    return;
  }
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    const document = parseBoundedJson(text);
    if (!document.ok) throw unreadable(`The request: ${document.problem.message}`);
    request.body = document.value;
    next();
  } catch (error) {
    next(error instanceof TypeError ? unreadable('The request is not text in UTF-8') : error);
  }
}

/**
 * Takes a file whose length is known into one piece of memory. Parts that are put together at the end, as the general parser does,
 * take twice as much for a while.
 */
function takeInFile(request: Request, _response: Response, next: NextFunction): void {
  const { 'content-type': type, 'content-encoding': encoding, 'content-length': length } = request.headers;
  const lengthBytes = Number(length);
  if (type !== FILE_TYPE || encoding !== undefined || !(lengthBytes <= FILE_LIMIT_BYTES)) {
    next();
    return;
  }
  const bytes = new Uint8Array(lengthBytes);
  let at = 0;
  request.on('data', (part: Uint8Array) => {
    bytes.set(part, at);
    at += part.length;
  });
  request.once('end', () => {
    request.body = bytes;
    next();
  });
}

/** What is more than can be held is answered at once, and not held. */
function fewUploads() {
  let heldBytes = 0;
  return (request: Request, response: Response, next: NextFunction): void => {
    if (request.headers['content-type'] !== FILE_TYPE) {
      next();
      return;
    }
    const bytes = Math.min(Number(request.headers['content-length'] ?? FILE_LIMIT_BYTES), FILE_LIMIT_BYTES);
    if (heldBytes + bytes > MOST_HELD_BYTES) {
      request.resume();
      next(unavailable('Too many files are being sent at once; come back in a moment', COME_BACK_SECONDS));
      return;
    }
    heldBytes += bytes;
    response.once('close', () => (heldBytes -= bytes));
    next();
  };
}
