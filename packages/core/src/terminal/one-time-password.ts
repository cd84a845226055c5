import { md5, sha1 } from '@noble/hashes/legacy.js';
import { malformed, type Malformed } from '../bits/malformed.js';
import { concatOctets, fromLatin1, toHex } from '../bits/octets.js';

/**
 * One-time passwords of RFC 2289: the pass phrase is never sent. seed (lower case) and phrase are hashed, folded to 64
 * bits, and hashed so many times more. The answer is given as hexadecimal, which every server takes ("Form of Output").
 */
export interface Challenge {
  readonly algorithm: 'md5' | 'sha1';
  readonly count: number;
  readonly seed: string;
}

const FORM = /^\s*otp-(md4|md5|sha1)\s+(\d{1,4})\s+([a-z0-9]{1,16})\b/i;

export function parseChallenge(text: string): Challenge | Malformed {
  const [, algorithm = '', count = '', seed = ''] = FORM.exec(text) ?? [];
  if (algorithm === '') return malformed('no challenge: it reads otp-md5, a number and a seed');
  if (algorithm.toLowerCase() === 'md4') return malformed('MD4 is not made here: ask for MD5 or SHA-1');
  return {
    algorithm: algorithm.toLowerCase() as Challenge['algorithm'],
    count: Number(count),
    seed: seed.toLowerCase(),
  };
}

/** RFC 2289, "Creation of a secure secret": 10 characters at least. */
export const SHORTEST_PHRASE = 10;

/** Sixteen hexadecimal digits in four groups. */
export function oneTimePassword({ algorithm, count, seed }: Challenge, phrase: string): string {
  const hash = algorithm === 'md5' ? foldedMd5 : foldedSha1;
  let key = hash(concatOctets(fromLatin1(seed), fromLatin1(phrase)));
  for (let i = 0; i < count; i++) key = hash(key);
  return (toHex(key).toUpperCase().match(/.{4}/g) ?? []).join(' ');
}

/** Appendix A: the halves of 128 bits over each other. */
function foldedMd5(octets: Uint8Array): Uint8Array {
  const digest = md5(octets);
  return Uint8Array.from({ length: 8 }, (_, i) => (digest[i] as number) ^ (digest[i + 8] as number));
}

/** Appendix A: 160 bits as five words, 0^2^4 and 1^3, each then little-endian. */
function foldedSha1(octets: Uint8Array): Uint8Array {
  const view = new DataView(sha1(octets).slice().buffer);
  const word = (i: number): number => view.getUint32(4 * i);
  const folded = new DataView(new ArrayBuffer(8));
  folded.setUint32(0, word(0) ^ word(2) ^ word(4), true);
  folded.setUint32(4, word(1) ^ word(3), true);
  return new Uint8Array(folded.buffer);
}
