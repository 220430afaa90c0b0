import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';

/** 32 MB and about 60 ms a try (OWASP's second choice after argon2id); Node does it in a thread, so that clocks are answered meanwhile. */
const COST: ScryptOptions = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
const KEY_BYTES = 32;

function derived(password: string, salt: Buffer): Promise<Buffer> {
  return new Promise((resolve, reject) =>
    scrypt(password.normalize('NFKC'), salt, KEY_BYTES, COST, (error, key) =>
      error ? reject(error) : resolve(key),
    ),
  );
}

/** "scrypt$salt$key", both in base64. */
export async function hashedPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt$${salt.toString('base64')}$${(await derived(password, salt)).toString('base64')}`;
}

/** Takes as long for a name that has no account (`stored` null) as for a wrong password. */
export async function isPassword(password: string, stored: string | null): Promise<boolean> {
  const [, salt = '', key = ''] = (stored ?? '').split('$');
  const given = await derived(password, Buffer.from(salt, 'base64'));
  const wanted = Buffer.from(key, 'base64');
  return stored !== null && wanted.length === given.length && timingSafeEqual(given, wanted);
}
