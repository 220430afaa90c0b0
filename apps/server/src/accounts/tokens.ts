import { createHash, randomBytes } from 'node:crypto';

/** A secret that whoever has it is known by; only its hash is kept. */
export function newToken(): string {
  return randomBytes(32).toString('base64url');
}

export function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('base64url');
}
