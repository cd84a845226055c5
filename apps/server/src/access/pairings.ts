import { createHash, randomInt } from 'node:crypto';
import type { Role } from '@mistpeak/contract/access';

/** Without the letters and digits that are taken for one another. */
const LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
const LENGTH = 10;
export const PAIRING_LASTS_MS = 10 * 60_000;

/** Codes that let one device in, once, within ten minutes. Kept in memory: after a restart one makes another. */
export class Pairings {
  private readonly waiting = new Map<string, { readonly role: Role; readonly expiresAtMs: number }>();

  /** Ten letters of thirty are 49 bits; with five tries a minute nobody guesses one in ten minutes. */
  make(role: Role, nowMs: number): string {
    for (const [code, { expiresAtMs }] of this.waiting) if (expiresAtMs <= nowMs) this.waiting.delete(code);
    const code = Array.from({ length: LENGTH }, () => LETTERS.charAt(randomInt(LETTERS.length))).join('');
    this.waiting.set(hashOf(code), { role, expiresAtMs: nowMs + PAIRING_LASTS_MS });
    return code;
  }

  /** The role that the code gives; it is used up. Spaces, hyphens and small letters do not matter. */
  use(text: string, nowMs: number): Role | undefined {
    const key = hashOf(text.toUpperCase().replace(/[\s-]/g, ''));
    const found = this.waiting.get(key);
    this.waiting.delete(key);
    return found && found.expiresAtMs > nowMs ? found.role : undefined;
  }
}

/** The table is searched by hash, so that the time of a search tells nothing of the codes in it. */
const hashOf = (code: string): string => createHash('sha256').update(code).digest('hex');
