import {
  Catch,
  HttpException,
  Logger,
  NotFoundException,
  ServiceUnavailableException,
  type ArgumentsHost,
  type ExceptionFilter,
} from '@nestjs/common';
import { PROBLEM_TYPES, type ProblemDocument } from '@anchorbeat/contract';
import type { Request, Response } from 'express';
import { ProblemException } from './problemException.ts';
import { sqliteProblemMaybe } from './sqliteProblem.ts';

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
    detail: 'This server answers to its own pages and addresses only',
  },
  404: { type: PROBLEM_TYPES.notFound, title: 'Not found', detail: 'There is nothing at this address' },
  413: {
    type: PROBLEM_TYPES.tooLarge,
    title: 'Too large',
    detail:
      'A save may be at most 16 MB and a file 33 MB, which is far more than 10,000 bars need; nothing was saved',
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

  /**
   * `methodsAt` gives the methods that an address of the API answers to, `onDamage` what to do where an error
   * says that the database is damaged.
   */
  constructor(
    private readonly methodsAt: (path: string) => readonly string[] = () => [],
    private readonly onDamage: (error: Error) => string = () => '',
  ) {}

  catch(error: unknown, host: ArgumentsHost): void {
    const request = host.switchToHttp().getRequest<Request>();
    const response = host.switchToHttp().getResponse<Response>();
    const { retryAfterSeconds, allow, ...problem } = this.problemOf(error, request);
    if (problem.status === 500) this.logger.error(error);
    if (response.headersSent) return;
    if (retryAfterSeconds) response.setHeader('Retry-After', String(retryAfterSeconds));
    if (allow) response.setHeader('Allow', allow.join(', '));
    response
      .status(problem.status)
      .type('application/problem+json')
      .send(JSON.stringify({ ...problem, instance: request.path }));
  }

  private problemOf(error: unknown, { path, method }: Request): Told {
    const told = toldOf(error);
    if (told.type === PROBLEM_TYPES.damaged)
      return { ...told, detail: `${told.detail}. ${this.onDamage(error as Error)}` };
    const allow = told.status === 404 && isUnrouted(error) ? this.methodsAt(path) : [];
    if (allow.length === 0 || allow.includes(method)) return told;
    const detail = `This address answers ${allow.join(', ')} only`;
    return { type: PROBLEM_TYPES.method, title: 'Wrong method', status: 405, detail, allow };
  }
}

interface Told extends ProblemDocument {
  readonly retryAfterSeconds?: number | null;
  /** The methods that are right here, where this one is wrong. */
  readonly allow?: readonly string[];
}

/** Nest's own refusal of an address and method that it has no route for. */
function isUnrouted(error: unknown): boolean {
  return error instanceof NotFoundException && !(error instanceof ProblemException);
}

function toldOf(error: unknown): Told {
  if (error instanceof ProblemException)
    return { ...error.problem, retryAfterSeconds: error.retryAfterSeconds };
  const sqlite = sqliteProblemMaybe(error);
  if (sqlite) return sqlite;
  const status = statusOf(error);
  const said = indicatorsOf(error).join('. ');
  return { status, ...(BY_STATUS[status] ?? UNEXPECTED), ...(said !== '' && { detail: said }) };
}

/** What the indicators of health say that are down. */
function indicatorsOf(error: unknown): readonly string[] {
  if (!(error instanceof ServiceUnavailableException)) return [];
  const { error: down } = error.getResponse() as { readonly error?: unknown };
  return Object.values(down && typeof down === 'object' ? down : {}).flatMap(
    ({ message }: { readonly message?: unknown }) => (typeof message === 'string' ? [message] : []),
  );
}

function statusOf(error: unknown): number {
  if (error instanceof HttpException) return error.getStatus();
  const status = (error as { status?: unknown } | null)?.status;
  return typeof status === 'number' && status >= 400 && status < 500 ? status : 500;
}
