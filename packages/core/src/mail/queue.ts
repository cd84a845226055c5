import type { Precedence } from './proposal.js';

/** When and by which way a message may go. */
export interface Posting {
  readonly precedence: Precedence;
  readonly onlyInternet: boolean;
  /** ms since 1970: not before. */
  readonly afterMs?: number;
}

export type Way = 'radio' | 'internet';

/** Why it does not go now; undefined where it may. */
export function heldBack(
  { onlyInternet, afterMs }: Omit<Posting, 'precedence'>,
  way: Way,
  nowMs: number,
): string | undefined {
  if (onlyInternet && way === 'radio') return 'only over the internet';
  if (afterMs !== undefined && nowMs < afterMs) return 'not before its time';
  return undefined;
}

const ANSWERS = /^\s*(?:(?:re|fwd?|aw|wg|sv)(?:\[\d+\])?\s*:\s*)+/i;

/** The same for a letter and its answers. */
export const threadOf = (subject: string): string =>
  subject.replace(ANSWERS, '').replace(/\s+/g, ' ').trim().toLowerCase();

export const answerSubject = (subject: string): string => `Re: ${subject.replace(ANSWERS, '').trim()}`;

/** Each line behind a mark, as answers have it. */
export const quoted = (text: string, from: string, when: string): string =>
  `\n\n${from} wrote on ${when}:\n${text
    .trimEnd()
    .split('\n')
    .map((line) => `> ${line}`)
    .join('\n')}\n`;
