import { HttpException } from '@nestjs/common';
import {
  PROBLEM_TYPES,
  type FieldProblem,
  type ProblemDocument,
  type StaleProblemDocument,
} from '@anchorbeat/contract';

/** An expected refusal, sent as an RFC 9457 problem document. */
export class ProblemException extends HttpException {
  constructor(
    readonly problem: ProblemDocument,
    readonly retryAfterSeconds: number | null = null,
  ) {
    super(problem, problem.status);
  }
}

export function invalid(errors: readonly FieldProblem[]): ProblemException {
  const [first] = errors;
  const where = first?.bar ? `${/^\d/.test(first.bar) ? `Bar ${first.bar}` : first.bar}: ` : '';
  const more = errors.length > 1 ? ` (and ${errors.length - 1} more)` : '';
  return new ProblemException({
    type: PROBLEM_TYPES.invalid,
    title: 'This cannot be saved as it is',
    status: 422,
    detail: `${where}${first?.message ?? 'something is not right'}${more}`,
    errors,
  });
}

export function notFound(what: string): ProblemException {
  return new ProblemException({
    type: PROBLEM_TYPES.notFound,
    title: 'Not found',
    status: 404,
    detail: `There is no such ${what}; it may have been removed`,
  });
}

export function alreadyExists(what: string): ProblemException {
  return new ProblemException({
    type: PROBLEM_TYPES.exists,
    title: 'Already there',
    status: 409,
    detail: `A ${what} with this id is already kept`,
  });
}

/** Refused for now: `retryAfterSeconds` says when to come back. */
export function unavailable(detail: string, retryAfterSeconds = 5): ProblemException {
  const type = PROBLEM_TYPES.unavailable;
  return new ProblemException({ type, title: 'Not now', status: 503, detail }, retryAfterSeconds);
}

export function unreadable(detail: string): ProblemException {
  return new ProblemException({
    type: PROBLEM_TYPES.unreadable,
    title: 'This could not be read',
    status: 400,
    detail: `${detail}; nothing was saved`,
  });
}

export function stale(
  currentRevision: number,
  differences: readonly string[],
  { isBaseGone = false } = {},
): ProblemException {
  const problem: StaleProblemDocument = {
    type: PROBLEM_TYPES.stale,
    title: 'Changed elsewhere meanwhile',
    status: 409,
    detail: `Somebody saved revision ${currentRevision} since you opened this piece. Nothing of either is lost: choose which to go on with`,
    currentRevision,
    differences,
    isBaseGone,
  };
  return new ProblemException(problem);
}

/** The same where what a save grew from is not there any more. */
export function baseGone(currentRevision: number): ProblemException {
  const says = 'A backup was brought back: the piece is as it was there';
  return stale(currentRevision, [says], { isBaseGone: true });
}

/** Nobody has signed in, or the name and password are not right. */
export function signInFirst(detail: string): ProblemException {
  return new ProblemException({ type: PROBLEM_TYPES.signIn, title: 'Sign in first', status: 401, detail });
}

export function forbidden(detail: string): ProblemException {
  return new ProblemException({ type: PROBLEM_TYPES.forbidden, title: 'Not allowed', status: 403, detail });
}

export function tooMany(detail: string, retryAfterSeconds: number): ProblemException {
  const type = PROBLEM_TYPES.tooMany;
  return new ProblemException({ type, title: 'Too often', status: 429, detail }, retryAfterSeconds);
}
