import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { PROBLEM_TYPES, type ProblemDocument } from '@anchorbeat/contract';
import type { Request, Response } from 'express';
import { ProblemException } from './problemException.ts';

interface StatusText {
  readonly type: string;
  readonly title: string;
  readonly detail: string;
}

const BY_STATUS: Readonly<Record<number, StatusText>> = {
  400: {
    type: PROBLEM_TYPES.unreadable,
    title: 'This could not be read',
    detail: 'The request is not valid JSON; nothing was saved',
  },
  403: {
    type: PROBLEM_TYPES.invalid,
    title: 'Not from here',
    detail: 'This server answers on this machine only',
  },
  404: { type: PROBLEM_TYPES.notFound, title: 'Not found', detail: 'There is nothing at this address' },
  413: {
    type: PROBLEM_TYPES.tooLarge,
    title: 'Too large',
    detail:
      'A save may be at most 4 MB and a file 33 MB, which is far more than 10,000 bars need; nothing was saved',
  },
  415: {
    type: PROBLEM_TYPES.unreadable,
    title: 'Not JSON',
    detail: 'Send application/json in UTF-8; nothing was saved',
  },
  429: {
    type: PROBLEM_TYPES.tooMany,
    title: 'Too fast',
    detail: 'Too many requests at once; wait a second and try again',
  },
  503: { type: PROBLEM_TYPES.unavailable, title: 'Not ready', detail: 'The database does not answer' },
};

const UNEXPECTED: StatusText = {
  type: PROBLEM_TYPES.unexpected,
  title: 'Something went wrong here',
  detail: 'The server met an error it did not expect; nothing was saved. Your work is still in this window',
};

/** Sends everything that goes wrong as a problem document, and logs what was not expected. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const request = host.switchToHttp().getRequest<Request>();
    const response = host.switchToHttp().getResponse<Response>();
    const problem = { ...problemOf(error), instance: request.path };
    if (problem.status >= 500) this.logger.error(error);
    if (response.headersSent) return;
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }
}

function problemOf(error: unknown): ProblemDocument {
  if (error instanceof ProblemException) return error.problem;
  const status = statusOf(error);
  return { status, ...(BY_STATUS[status] ?? UNEXPECTED) };
}

function statusOf(error: unknown): number {
  if (error instanceof HttpException) return error.getStatus();
  const status = (error as { status?: unknown } | null)?.status;
  return typeof status === 'number' && status >= 400 && status < 500 ? status : 500;
}
