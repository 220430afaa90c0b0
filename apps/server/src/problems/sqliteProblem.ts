import { PROBLEM_TYPES, type ProblemDocument } from '@anchorbeat/contract';

interface Refusal extends Omit<ProblemDocument, 'instance'> {
  /** When to try again, in seconds. */
  readonly retryAfterSeconds: number;
}

const FULL: Refusal = {
  type: PROBLEM_TYPES.full,
  title: 'The disk is full',
  status: 507,
  detail:
    'There is no room left to save on the server’s disk; nothing was saved. Make room there: your work stays here and is saved as soon as there is some',
  retryAfterSeconds: 5,
};

const BUSY: Refusal = {
  type: PROBLEM_TYPES.unavailable,
  title: 'Busy',
  status: 503,
  detail: 'Another program holds the database; nothing was saved. It is tried again in a moment',
  retryAfterSeconds: 2,
};

const NOT_WRITABLE: Refusal = {
  type: PROBLEM_TYPES.unavailable,
  title: 'Not writable',
  status: 503,
  detail:
    'The database cannot be written; nothing was saved. Check that its folder and disk are there and may be written to',
  retryAfterSeconds: 10,
};

const DAMAGED: Refusal = {
  type: PROBLEM_TYPES.damaged,
  title: 'The database is damaged',
  status: 500,
  detail: 'Part of the database cannot be read. Nothing is written over it',
  retryAfterSeconds: 60,
};

/** The problem that an error of SQLite stands for; null for anything else. */
export function sqliteProblemMaybe(error: unknown): Refusal | null {
  const code = sqliteCodeMaybe(error);
  if (code === null) return null;
  if (code === 'SQLITE_FULL') return FULL;
  if (/^SQLITE_(BUSY|LOCKED)/.test(code)) return BUSY;
  if (/^SQLITE_(CORRUPT|NOTADB)/.test(code)) return DAMAGED;
  // A disk that is full may also show as a write that fails.
  if (/^SQLITE_IOERR_(WRITE|FSYNC|SHMSIZE|SHMMAP|TRUNCATE)/.test(code)) return FULL;
  if (/^SQLITE_(IOERR|READONLY|CANTOPEN|PERM)/.test(code)) return NOT_WRITABLE;
  return null;
}

/** The code of an error of SQLite's driver, also inside TypeORM's own. */
export function sqliteCodeMaybe(error: unknown): string | null {
  const { code, driverError } = (error ?? {}) as { code?: unknown; driverError?: { code?: unknown } };
  const found = driverError?.code ?? code;
  return typeof found === 'string' && found.startsWith('SQLITE') ? found : null;
}
