import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Encrypted by AES-256-GCM (NIST SP 800-38D); all parts in hex. salt: where the key comes from a passphrase. */
export interface Sealed {
  readonly nonce: string;
  readonly tag: string;
  readonly text: string;
  readonly salt?: string;
}

const KEY_OCTETS = 32;
const KEY_FILE = 'mail.key';
/** RFC 7914, for interactive use: 16 MB, about 50 ms. */
const SCRYPT = { N: 16_384, r: 8, p: 1 };

export function seal(secret: string, key: Buffer, salt?: Buffer): Sealed {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', key, nonce);
  const text = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
  return {
    nonce: nonce.toString('hex'),
    tag: cipher.getAuthTag().toString('hex'),
    text: text.toString('hex'),
    ...(salt ? { salt: salt.toString('hex') } : {}),
  };
}

/** Undefined with another key. */
export function open({ nonce, tag, text }: Sealed, key: Buffer): string | undefined {
  try {
    const decipher = createDecipheriv('aes-256-gcm', key, Buffer.from(nonce, 'hex'));
    decipher.setAuthTag(Buffer.from(tag, 'hex'));
    return Buffer.concat([decipher.update(Buffer.from(text, 'hex')), decipher.final()]).toString('utf8');
  } catch {
    return undefined;
  }
}

export const newSalt = (): Buffer => randomBytes(16);

export const keyOfPassphrase = (passphrase: string, salt: Buffer): Buffer =>
  scryptSync(passphrase.normalize('NFC'), salt, KEY_OCTETS, SCRYPT);

/** Beside the database, for its owner alone: who has only one of the two has nothing. */
export function keyOfFolder(folder: string): Buffer {
  const file = join(folder, KEY_FILE);
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, randomBytes(KEY_OCTETS).toString('hex'), { mode: 0o600, flag: 'wx' });
    chmodSync(file, 0o600);
  }
  return Buffer.from(readFileSync(file, 'utf8').trim(), 'hex');
}
