import { isStillOwner, LEASE_MS, NO_CONTACT } from './ownership.js';

describe('while the database is away', () => {
  it.each([
    ['the only process goes on', 0, 24 * 3_600_000, true],
    ['one of several goes on for ten seconds', 1, LEASE_MS - 1, true],
    ['and no longer', 1, LEASE_MS, false],
  ])('%s', (_, others, afterMs, owns) =>
    expect(isStillOwner({ upMs: 500, others }, 500 + afterMs)).toBe(owns),
  );

  it('a process that never had an answer owns nothing', () =>
    expect(isStillOwner(NO_CONTACT, 0)).toBe(false));
  it('ten seconds are ten seconds', () => expect(LEASE_MS).toBe(10_000));
});
