import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { generate } from 'selfsigned';

const YEARS = 5;

/**
 * A certificate of this server's own, made once and kept with its data; made anew when the machine is found under another
 * address. A phone warns of it the first time, since nobody else has signed it.
 */
export async function keptCertificate(dataFolder, hosts) {
  const folder = join(dataFolder, 'certificate');
  const file = join(folder, 'certificate.json');
  const names = ['127.0.0.1', ...hosts].sort();
  if (existsSync(file)) {
    const kept = JSON.parse(readFileSync(file, 'utf8'));
    if (names.every((name) => kept.names.includes(name)) && Date.parse(kept.until) > Date.now()) return kept;
  }
  const until = new Date();
  until.setFullYear(until.getFullYear() + YEARS);
  const made = await generate([{ name: 'commonName', value: 'Anchorbeat' }], {
    keySize: 2048,
    algorithm: 'sha256',
    notAfterDate: until,
    extensions: [
      {
        name: 'subjectAltName',
        altNames: [{ type: 2, value: 'localhost' }, ...names.map((ip) => ({ type: 7, ip }))],
      },
    ],
  });
  const certificate = { names, until: until.toISOString(), key: made.private, cert: made.cert };
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  writeFileSync(file, JSON.stringify(certificate), { mode: 0o600 });
  return certificate;
}
