/** One thing wrong with a request: the field's path, its value, and the bar where there is one. */
export interface FieldProblem {
  readonly message: string;
  readonly field?: string;
  readonly value?: string;
  readonly bar?: string;
}

export const PROBLEM_TYPES = {
  invalid: 'urn:anchorbeat:problem:invalid',
  unreadable: 'urn:anchorbeat:problem:unreadable',
  tooLarge: 'urn:anchorbeat:problem:too-large',
  stale: 'urn:anchorbeat:problem:stale',
  notFound: 'urn:anchorbeat:problem:not-found',
  exists: 'urn:anchorbeat:problem:exists',
  tooMany: 'urn:anchorbeat:problem:too-many-requests',
  unavailable: 'urn:anchorbeat:problem:unavailable',
  full: 'urn:anchorbeat:problem:disk-full',
  damaged: 'urn:anchorbeat:problem:damaged',
  signIn: 'urn:anchorbeat:problem:sign-in',
  forbidden: 'urn:anchorbeat:problem:forbidden',
  method: 'urn:anchorbeat:problem:wrong-method',
  unexpected: 'urn:anchorbeat:problem:unexpected',
} as const;

/** A problem document as RFC 9457 describes it, with the fields that are wrong. */
export interface ProblemDocument {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly instance?: string;
  readonly errors?: readonly FieldProblem[];
}

/** The problem of a save that was based on an older revision: what the newer one changed. */
export interface StaleProblemDocument extends ProblemDocument {
  readonly currentRevision: number;
  readonly differences: readonly string[];
  /** The revision that the save grew from is not there any more: a backup was brought back. */
  readonly isBaseGone: boolean;
}
