const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 30_000;

/** Growing waits: 1 s, 2 s, 4 s … to 30 s, each spread by up to a quarter. attempt from 1; dice 0 to 1. */
export function waitBeforeRetryMs(attempt: number, dice: number): number {
  const wait = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(attempt - 1, 16));
  return Math.round(wait * (1 + 0.25 * dice));
}
