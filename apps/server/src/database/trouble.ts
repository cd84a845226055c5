/**
 * Why the database did not take something (PostgreSQL, appendix "PostgreSQL Error Codes"; socket errors as the runtime names
 * them). away: not there now · silent: there, and gives no answer in time · full: no space where the data lies · content: it
 * will never take this, whenever it is tried · other: all the rest, worth another try.
 */
export type DatabaseTrouble = 'away' | 'silent' | 'full' | 'content' | 'other';

const BY_CODE: readonly (readonly [RegExp, DatabaseTrouble])[] = [
  [/^(?:08...|57P0[1-3]|53300|ECONN\w+|EPIPE|ETIMEDOUT|ENOTFOUND)$/, 'away'],
  [/^(?:53100|ENOSPC)$/, 'full'],
  [/^57014$/, 'silent'],
  // Data exceptions, and rules of the tables that it would break.
  [/^2[23]...$/, 'content'],
];
const BY_WORDS: readonly (readonly [RegExp, DatabaseTrouble])[] = [
  [/no space left on device/i, 'full'],
  [/query read timeout|timeout exceeded when trying to connect/i, 'silent'],
  [
    /connection terminated|client has encountered a connection error|not queryable|Driver not Connected|Cannot use a pool/i,
    'away',
  ],
];

export function troubleOf(error: unknown): DatabaseTrouble {
  for (let one = error as { code?: unknown; message?: unknown; driverError?: unknown } | undefined; one;) {
    const { code, message } = one;
    const known =
      (typeof code === 'string' ? BY_CODE.find(([form]) => form.test(code)) : undefined) ??
      (typeof message === 'string' ? BY_WORDS.find(([form]) => form.test(message)) : undefined);
    if (known) return known[1];
    one = one.driverError as typeof one;
  }
  return 'other';
}
