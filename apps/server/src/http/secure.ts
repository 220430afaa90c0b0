import { PROBLEM_TYPES } from '@anchorbeat/contract';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { ProblemException } from '../problems/problemException.ts';

const LOOPBACK_HOST = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/** Who may speak to this server, and what a browser may do with what it answers. */
export function secure(app: NestExpressApplication): void {
  app.disable('x-powered-by');
  app.use((request: Request, _response: Response, next: NextFunction) => {
    next(LOOPBACK_HOST.test(request.headers.host ?? '') ? undefined : wrongHost());
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: { styleSrc: ["'self'", "'unsafe-inline'"], upgradeInsecureRequests: null },
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
    detail: 'This server answers on this machine only',
  });
}
