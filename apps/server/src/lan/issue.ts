import 'reflect-metadata';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { credentialsFor } from './authority.js';
import { ownAddresses, ownNames } from './lan.service.js';
import { SERVED } from './served.js';

/**
 * issue AUTHORITY-FOLDER SERVED-FOLDER: a certificate for this machine as it is called now. A program of the launcher's own,
 * which ends before the server begins: the server, which the network reaches, never holds the authority's key.
 */
const [authorityFolder, servedFolder] = process.argv.slice(2) as [string, string];
const names = [...ownNames(), '127.0.0.1', ...ownAddresses()];
// Certificates are for the clock of the phones, not for one of a demo.
const { key, cert, authority } = await credentialsFor(names, authorityFolder, Date.now());
mkdirSync(servedFolder, { recursive: true, mode: 0o700 });
for (const [name, text] of [
  [SERVED.key, key],
  [SERVED.cert, cert],
  [SERVED.authority, authority],
] as const)
  writeFileSync(join(servedFolder, name), text, { mode: 0o600 });
