/** PostgreSQL error classes (appendix "PostgreSQL Error Codes") and socket errors that mean: not there now. */
const AWAY_CODES = /^(?:08...|57P0[1-3]|53300|ECONN\w+|EPIPE|ETIMEDOUT|ENOTFOUND)$/;
const AWAY_WORDS =
  /connection terminated|client has encountered a connection error|not queryable|timeout exceeded when trying to connect|Driver not Connected|Cannot use a pool/i;

export function isDatabaseAway(error: unknown): boolean {
  for (let one = error as { code?: unknown; message?: unknown; driverError?: unknown } | undefined; one;) {
    if (typeof one.code === 'string' && AWAY_CODES.test(one.code)) return true;
    if (typeof one.message === 'string' && AWAY_WORDS.test(one.message)) return true;
    one = one.driverError as typeof one;
  }
  return false;
}
