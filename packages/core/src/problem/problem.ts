/**
 * What is wrong, where, and what to do about it, in words a musician understands.
 * `field` is the path in the piece document (`bars[11].meter`); `bar` is the printed label or position.
 */
export interface Problem {
  readonly message: string;
  readonly field?: string;
  readonly value?: string;
  readonly bar?: string;
}

/** An expected refusal carries its problem; anything else that goes wrong is thrown. */
export type Result<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problem: Problem };

export function accepted<T>(value: T): Result<T> {
  return { ok: true, value };
}

export function refused(message: string, more: Omit<Problem, 'message'> = {}): Result<never> {
  return { ok: false, problem: { message, ...more } };
}

/** The value of a result that the caller knows to be accepted (literals, tests, shipped data). */
export function expectValue<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  throw new Error(result.problem.message);
}
