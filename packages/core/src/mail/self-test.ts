import { TEST_ADDRESS } from './address.js';
import type { ReadLetter } from './letter.js';

/** A message to the service's test address; its answer waits there at the next connection (common practice, no source). */
export interface SelfTest {
  readonly number: number;
  readonly tag: string;
  readonly mid: string;
  /** When it was taken by the service, ms since 1970; until then no answer can come. */
  readonly sentAtMs?: number;
  readonly answeredAtMs?: number;
}

const TAG_SIGNS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';

/** Tells one test from all others, also in somebody else's record. */
export const makeTag = (number: number, dice: () => number): string =>
  `T${number}${Array.from({ length: 4 }, () => TAG_SIGNS[Math.floor(dice() * TAG_SIGNS.length)]).join('')}`;

export const selfTestLetter = (
  tag: string,
  chain: string,
): { to: string[]; subject: string; text: string } => ({
  to: [TEST_ADDRESS],
  subject: `Self-test ${tag}`,
  text: `Self-test ${tag}\nChain: ${chain}\nThe answer is due on the next connection.`,
});

/**
 * Which of the tests that wait a letter answers: the one whose tag or id it repeats; where it repeats none and comes from the test address,
 * the oldest of those that had been sent before it was written.
 */
export function answeredTest(pending: readonly SelfTest[], letter: ReadLetter): SelfTest | undefined {
  const waiting = pending
    .filter((one) => one.sentAtMs !== undefined && one.answeredAtMs === undefined)
    .sort((a, b) => a.number - b.number);
  const words = `${letter.subject}\n${letter.text}`.toUpperCase();
  const named = waiting.find(
    ({ tag, mid }) => words.includes(tag.toUpperCase()) || words.includes(mid.toUpperCase()),
  );
  if (named) return named;
  const isOfTest = /^(?:TEST|SERVICE)\b/i.test(letter.from.replace(/^SMTP:/i, ''));
  const repeatsAnother = /SELF-TEST T\d/.test(words);
  if (!isOfTest || repeatsAnother) return undefined;
  // Dates have no seconds.
  return waiting.find(
    ({ sentAtMs = Infinity }) => letter.dateMs === undefined || sentAtMs - 60_000 <= letter.dateMs,
  );
}
