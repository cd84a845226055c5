import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';

/** Long enough to come back to the terminal; another is a command away. */
const LASTS_MS = 60 * 60_000;

/**
 * Addresses that let the operator in at this machine, each once. Only the launcher may ask for one: it knows a secret that
 * no other user of the machine can read. In memory: after a restart the launcher prints another.
 */
export class OneTimeEntrances {
  private readonly waiting = new Map<string, number>();

  constructor(private readonly launcherSecret: string | undefined) {}

  isLauncher(secret: string): boolean {
    if (!this.launcherSecret) return false;
    const [given, own] = [secret, this.launcherSecret].map((text) =>
      createHash('sha256').update(text).digest(),
    );
    return timingSafeEqual(given as Buffer, own as Buffer);
  }

  make(nowUpMs: number): string {
    for (const [hash, endsMs] of this.waiting) if (endsMs <= nowUpMs) this.waiting.delete(hash);
    const token = randomBytes(32).toString('base64url');
    this.waiting.set(hashOf(token), nowUpMs + LASTS_MS);
    return token;
  }

  /** It is used up by this. */
  use(token: string, nowUpMs: number): boolean {
    const hash = hashOf(token);
    const endsMs = this.waiting.get(hash) ?? 0;
    this.waiting.delete(hash);
    return endsMs > nowUpMs;
  }
}

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
