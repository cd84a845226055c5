/** How a book of messages sends. */
export interface MessageRules {
  /** From the first try to the second; each later gap is twice the one before, up to the longest. */
  readonly firstGapMs: number;
  readonly longestGapMs: number;
  /** Of a message that wants an acknowledgement. */
  readonly tries: number;
  /** Of a bulletin or a group message, which nobody acknowledges. */
  readonly bulletinTries: number;
  /** Invites the other side to acknowledge within its own messages; who does so first is always answered so. */
  readonly offersReplyAcks: boolean;
}

/** Retries decay (1.0.1, "Message acknowledgement"); these figures are common practice, no source. */
export const USUAL_RULES: MessageRules = {
  firstGapMs: 30_000,
  longestGapMs: 480_000,
  tries: 6,
  bulletinTries: 3,
  offersReplyAcks: false,
};

/** A sender that repeats the same text under the same number within this time means the same message (common practice, no source). */
export const SAME_MESSAGE_MS = 4 * 60 * 60_000;
/** What comes within this time of a copy is the same try by another digipeater: it is acknowledged once (common practice, no source). */
export const SAME_TRY_MS = 5000;
/** An acknowledgement may come so late, and a closed message is remembered so long (the life of that proof). */
export const LATE_ANSWER_MS = 24 * 60 * 60_000;
/** What could not be handed to the way out is offered again after this time. */
export const OFFER_AGAIN_MS = 10_000;

/** From one try to the next. done: tries made, ≥ 1. */
export function gapAfterMs(done: number, { firstGapMs, longestGapMs }: MessageRules): number {
  return Math.min(firstGapMs * 2 ** (done - 1), longestGapMs);
}

/** How many times a message goes out at most. */
export function mostTries(wantsAnswer: boolean, { tries, bulletinTries }: MessageRules): number {
  return wantsAnswer ? tries : bulletinTries;
}

const DIGITS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';
/** Two characters, so that a reply-ack has room beside it (1.1 addendum, "Reply-Ack"). */
export const NUMBERS = DIGITS.length ** 2;

/** The number that the nth message of a book bears; after the last one they begin anew. */
export function numberOf(n: number): string {
  const turn = n % NUMBERS;
  return `${DIGITS[Math.floor(turn / DIGITS.length)]}${DIGITS[turn % DIGITS.length]}`;
}
