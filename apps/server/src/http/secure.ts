import { PROBLEM_TYPES } from '@anchorbeat/contract';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { ProblemException } from '../problems/problemException.ts';

/** Who may speak to this server, and what a browser may do with what it answers. */
export function secure(app: NestExpressApplication, isOurHost: (host: string) => boolean): void {
  app.disable('x-powered-by');
  app.use(({ headers, method }: Request, _response: Response, next: NextFunction) => {
    const { host = '', origin } = headers;
    const isRead = method === 'GET' || method === 'HEAD';
    const isFromOurPage = isRead || origin === undefined || origin.replace(/^https?:\/\//, '') === host;
    next(isOurHost(host) && isFromOurPage ? undefined : wrongHost());
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          styleSrc: ["'self'", "'unsafe-inline'"],
          // The writer of MP3 is WebAssembly that it carries along as data; all else still comes from here alone.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          connectSrc: ["'self'", 'data:'],
          // A recording that somebody opens to tap along with stays in the page.
          mediaSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
      crossOriginOpenerPolicy: { policy: 'same-origin' },
    }),
  );
  app.use('/api', (_request: Request, response: Response, next: NextFunction) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
}

function wrongHost(): ProblemException {
  return new ProblemException({
    type: PROBLEM_TYPES.invalid,
    title: 'Not from here',
    status: 403,
    detail: 'This server answers to its own pages and addresses only',
  });
}
