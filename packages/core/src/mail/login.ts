import { md5 } from '@noble/hashes/legacy.js';
import { concatOctets, fromLatin1 } from '../bits/octets.js';

/** The published salt of the secure login, 64 octets. */
const SALT = Uint8Array.of(
  77,
  197,
  101,
  206,
  190,
  249,
  93,
  200,
  51,
  243,
  93,
  237,
  71,
  94,
  239,
  138,
  68,
  108,
  70,
  185,
  225,
  137,
  217,
  16,
  51,
  122,
  193,
  48,
  194,
  195,
  198,
  175,
  172,
  169,
  70,
  84,
  61,
  62,
  104,
  186,
  114,
  52,
  61,
  168,
  66,
  129,
  192,
  208,
  187,
  249,
  232,
  193,
  41,
  113,
  41,
  45,
  240,
  16,
  29,
  228,
  208,
  228,
  61,
  20,
);
const DIGITS = 8;

/**
 * The answer to a challenge (B2F, "Secure login"): MD5 over challenge, password and salt; its first four octets, low one first,
 * 30 bits of them; the last eight decimal digits. Case counts. The password itself is never sent.
 */
export function challengeAnswer(challenge: string, password: string): string {
  const hash = md5(concatOctets(fromLatin1(challenge), latin1Password(password), SALT));
  const number = new DataView(hash.buffer, hash.byteOffset).getUint32(0, true) & 0x3fffffff;
  return String(number).padStart(DIGITS, '0').slice(-DIGITS);
}

/** What is no octet cannot be in a password of that service. */
const latin1Password = (password: string): Uint8Array =>
  fromLatin1(password.replace(/[^\u0000-\u00ff]/g, '?'));
