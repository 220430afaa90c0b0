import type { IncomingMessage } from 'node:http';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { parseBoundedJson } from '@anchorbeat/formats';
import type { NextFunction, Request, Response } from 'express';
import { unavailable, unreadable } from '../problems/problemException.ts';

const JSON_LIMIT = '16mb';
const FILE_LIMIT = '33mb';
/** So many files are taken in at once; each may be as large as the limit. */
const MOST_UPLOADS = 3;
const COME_BACK_SECONDS = 2;

/** Takes in what is sent: JSON, looked at for its depth before it is parsed, and files, a few at a time. */
export function takeInBodies(app: NestExpressApplication): void {
  app.use(fewUploads());
  app.useBodyParser('raw', { limit: JSON_LIMIT, type: isJson });
  app.use(parseJson);
  app.useBodyParser('raw', { limit: FILE_LIMIT, type: 'application/octet-stream' });
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

/** One file more than can be held is answered at once, and not held. */
function fewUploads() {
  let uploads = 0;
  return (request: Request, response: Response, next: NextFunction): void => {
    if (request.headers['content-type'] !== 'application/octet-stream') {
      next();
      return;
    }
    if (uploads >= MOST_UPLOADS) {
      request.resume();
      next(unavailable('Too many files are being sent at once; come back in a moment', COME_BACK_SECONDS));
      return;
    }
    uploads++;
    response.once('close', () => uploads--);
    next();
  };
}
