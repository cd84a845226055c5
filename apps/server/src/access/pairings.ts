import { createHash, randomInt } from 'node:crypto';
import type { Role } from '@mistpeak/contract/access';

/** Without the letters and digits that are taken for one another. */
const LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
const LENGTH = 10;
export const PAIRING_LASTS_MS = 10 * 60_000;

/** name: what the operator calls the device. */
export interface Paired {
  readonly role: Role;
  readonly name: string;
}

/** Codes that let one device in, once, within ten minutes. Kept in memory: after a restart one makes another. */
export class Pairings {
  private readonly waiting = new Map<string, { readonly paired: Paired; readonly expiresAtMs: number }>();

  /** Ten letters of thirty are 49 bits: at a thousand tries a second one is guessed in ten minutes once in a thousand million. */
  make(paired: Paired, nowMs: number): string {
    for (const [code, { expiresAtMs }] of this.waiting) if (expiresAtMs <= nowMs) this.waiting.delete(code);
    const code = Array.from({ length: LENGTH }, () => LETTERS.charAt(randomInt(LETTERS.length))).join('');
    this.waiting.set(hashOf(code), { paired, expiresAtMs: nowMs + PAIRING_LASTS_MS });
    return code;
  }

  /** None of them lets anybody in any more. */
  forget(): void {
    this.waiting.clear();
  }

  /** Whom the code lets in; it is used up. Spaces, hyphens and small letters do not matter. */
  use(text: string, nowMs: number): Paired | undefined {
    const key = hashOf(text.toUpperCase().replace(/[\s-]/g, ''));
    const found = this.waiting.get(key);
    this.waiting.delete(key);
    return found && found.expiresAtMs > nowMs ? found.paired : undefined;
  }
}

/** The table is searched by hash, so that the time of a search tells nothing of the codes in it. */
const hashOf = (code: string): string => createHash('sha256').update(code).digest('hex');
