import { X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Credentials } from './authority.js';

/** What the launcher lays ready for the server. */
export const SERVED = { key: 'server.key', cert: 'server.pem', authority: 'authority.pem' };

export function readServed(folder: string): Credentials {
  const [key, cert, authority] = [SERVED.key, SERVED.cert, SERVED.authority].map((name) =>
    readFileSync(join(folder, name), 'utf8'),
  ) as [string, string, string];
  return { key, cert, authority, fingerprint: new X509Certificate(authority).fingerprint256 };
}
