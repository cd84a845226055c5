/**
 * What the last answer of the database said: when it came, by the clock that only goes forward, and how many other
 * processes of ours were there.
 */
export interface Contact {
  readonly upMs: number;
  readonly others: number;
}

export const NO_CONTACT: Contact = { upMs: -Infinity, others: Infinity };

/** So long without an answer, and another process may own what was ours. */
export const LEASE_MS = 10_000;

/** While the database is away: whether nobody else can own what this process owned at its last answer. */
export function isStillOwner({ upMs, others }: Contact, nowUpMs: number): boolean {
  return others === 0 || nowUpMs - upMs < LEASE_MS;
}
