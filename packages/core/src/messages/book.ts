import { encodeMessage } from '../aprs/message.js';
import type { AprsReport, Message } from '../aprs/report.js';
import { octetText } from '../bits/octets.js';
import { callWithoutSsid } from '../callsign/callsign.js';
import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';
import { isOpen, type Answered, type Outgoing, type Phase, type Received, type Standing } from './entries.js';
import {
  gapAfterMs,
  LATE_ANSWER_MS,
  mostTries,
  numberOf,
  OFFER_AGAIN_MS,
  SAME_MESSAGE_MS,
  SAME_TRY_MS,
  type MessageRules,
} from './rules.js';

/**
 * One book of messages: what we send until it is answered, and what is heard.
 *
 *   queued --may go out--> leaving --handed--> waiting --gap over--> leaving … after the last try: no answer
 *                          leaving --not sent--> queued, offered again
 *   any open one --ack--> acknowledged, --rej--> rejected, --cancel--> cancelled, --its time over--> expired
 *   no answer, cancelled or expired --ack after all--> acknowledged
 *
 * A try is kept before it is handed to the way out: whatever ends the process in between, a message never goes out more
 * often than planned (1.0.1, "Messages, bulletins and announcements"; reply-acks after the 1.1 addendum).
 */
export interface Book {
  readonly outgoing: readonly Outgoing[];
  /** Of the time within which a repetition is the same message. */
  readonly received: readonly Received[];
  /** How many numbers have been given away. */
  readonly numbered: number;
}

/** A message as it is written. */
export type Written = Pick<Outgoing, 'id' | 'from' | 'to' | 'text' | 'linkId' | 'path' | 'expiresAtMs'> & {
  readonly wantsAnswer: boolean;
};

/** What was heard, with its sender; by: the digipeater that it was heard from, where there was one. */
export interface Heard {
  readonly id: string;
  readonly linkId: string;
  readonly from: string;
  readonly by?: string;
  readonly report: AprsReport;
}

export type BookEvent =
  | { readonly kind: 'write'; readonly message: Written }
  | { readonly kind: 'handed'; readonly id: string }
  | { readonly kind: 'not sent'; readonly id: string; readonly trouble: string }
  | { readonly kind: 'heard'; readonly heard: Heard }
  | { readonly kind: 'ack left'; readonly id: string }
  | { readonly kind: 'cancel'; readonly id: string }
  /** Once more from the first try: only what has come to its end unanswered. */
  | { readonly kind: 'again'; readonly id: string }
  /** The lock, the rules or the way are not what they were. */
  | { readonly kind: 'look' }
  | TimerEvent;

export type BookEffect =
  | TimerEffect<'due'>
  /** To be on disk before any later effect is carried out. */
  | { readonly kind: 'keep'; readonly message: Outgoing; readonly numbered: number }
  | { readonly kind: 'keep received'; readonly message: Received }
  /** Comes back as 'handed' or 'not sent'. */
  | { readonly kind: 'send'; readonly message: Outgoing; readonly info: string }
  /** What waits at the way out is not to leave any more. */
  | { readonly kind: 'withdraw'; readonly id: string }
  /** Comes back as 'ack left'. */
  | {
      readonly kind: 'ack';
      readonly id: string;
      readonly from: string;
      readonly to: string;
      readonly number: string;
      readonly linkId: string;
    };

export interface BookContext extends Moment {
  readonly rules: MessageRules;
  /** Ours without SSID. */
  readonly licence: string;
  /** The stations, with SSID, for which this book answers. */
  readonly answersFor: readonly string[];
  readonly groups: readonly string[];
  /** Whether that station may send by that way now. */
  readonly mayLeave: (from: string, linkId: string) => boolean;
}

type Outcome = Stepped<Book, BookEffect>;

export const EMPTY_BOOK: Book = { outgoing: [], received: [], numbered: 0 };

/** A book as it was kept: what was leaving when the process ended counts as sent. */
export function reopened(book: Book, rules: MessageRules): Book {
  const outgoing = book.outgoing.map((one) => (one.phase.kind === 'leaving' ? waiting(one, rules) : one));
  return { ...book, outgoing };
}

export function step(book: Book, event: BookEvent, context: BookContext): Outcome {
  return reckon(take(book, event, context), context);
}

function take(book: Book, event: BookEvent, context: BookContext): Outcome {
  switch (event.kind) {
    case 'write':
      return write(book, event.message, context);
    case 'handed':
      return change(book, event.id, (one) => handed(one, context));
    case 'not sent':
      return change(book, event.id, (one) => notSent(one, event.trouble, context));
    case 'heard':
      return hear(forgetOld(book, context.atMs), event.heard, context);
    case 'ack left':
      return changeReceived(book, event.id, (one) => ({ ...one, acksSent: one.acksSent + 1 }));
    case 'cancel':
      return end(book, event.id, 'cancelled');
    case 'again':
      return change(book, event.id, (one) =>
        isOpen(one) || one.phase.kind === 'acknowledged'
          ? one
          : { ...one, tries: [], phase: { kind: 'queued' } },
      );
    case 'look':
    case 'timer':
      return [book, []];
  }
}

function write(book: Book, { wantsAnswer, ...message }: Written, { atMs }: BookContext): Outcome {
  if (book.outgoing.some(({ id }) => id === message.id)) return [book, []];
  const numbered = book.numbered + (wantsAnswer ? 1 : 0);
  const entry: Outgoing = {
    ...message,
    ...(wantsAnswer ? { number: numberOf(book.numbered) } : {}),
    writtenAtMs: atMs,
    tries: [],
    phase: { kind: 'queued' },
  };
  return [
    { ...book, numbered, outgoing: [...book.outgoing, entry] },
    [{ kind: 'keep', message: entry, numbered }],
  ];
}

/** Its time counts from now on, not from when it was put into the queue. */
function handed(one: Outgoing, { atMs, rules }: BookContext): Outgoing {
  if (one.phase.kind !== 'leaving') return one;
  const tries = one.tries.with(-1, { atMs, heardBack: [] });
  return waiting({ ...one, tries }, rules);
}

function waiting(one: Outgoing, rules: MessageRules): Outgoing {
  const lastMs = one.tries.at(-1)?.atMs ?? one.writtenAtMs;
  return { ...one, phase: { kind: 'waiting', untilMs: lastMs + gapAfterMs(one.tries.length, rules) } };
}

function notSent(one: Outgoing, trouble: string, { atMs }: BookContext): Outgoing {
  if (one.phase.kind !== 'leaving') return one;
  const phase: Phase = { kind: 'queued', notBeforeMs: atMs + OFFER_AGAIN_MS, trouble };
  return { ...one, tries: one.tries.slice(0, -1), phase };
}

function end(book: Book, id: string, kind: 'cancelled' | 'expired'): Outcome {
  const one = book.outgoing.find((message) => message.id === id);
  if (!one || !isOpen(one)) return [book, []];
  const [next, effects] = change(book, id, (message) => ({ ...message, phase: { kind } }));
  return [next, [...effects, ...withdrawn(one)]];
}

/** Only what waits at the way out has anything there to withdraw. */
const withdrawn = (before: Outgoing): BookEffect[] =>
  before.phase.kind === 'leaving' ? [{ kind: 'withdraw', id: before.id }] : [];

function change(book: Book, id: string, to: (one: Outgoing) => Outgoing): Outcome {
  const at = book.outgoing.findIndex((one) => one.id === id);
  const one = book.outgoing[at];
  const changed = one && to(one);
  if (!changed || changed === one) return [book, []];
  return [
    { ...book, outgoing: book.outgoing.with(at, changed) },
    [{ kind: 'keep', message: changed, numbered: book.numbered }],
  ];
}

function changeReceived(book: Book, id: string, to: (one: Received) => Received): Outcome {
  const at = book.received.findIndex((one) => one.id === id);
  const one = book.received[at];
  if (!one) return [book, []];
  const changed = to(one);
  return [
    { ...book, received: book.received.with(at, changed) },
    [{ kind: 'keep received', message: changed }],
  ];
}

/** What is older is in the record; the book needs what a late answer or a repetition may mean. */
function forgetOld(book: Book, atMs: number): Book {
  const outgoing = book.outgoing.filter((one) => isOpen(one) || atMs - one.writtenAtMs < LATE_ANSWER_MS);
  const received = book.received.filter(({ lastCopyAtMs }) => atMs - lastCopyAtMs < SAME_MESSAGE_MS);
  const isSame = outgoing.length === book.outgoing.length && received.length === book.received.length;
  return isSame ? book : { ...book, outgoing, received };
}

function hear(book: Book, heard: Heard, context: BookContext): Outcome {
  const { report, from } = heard;
  const { message } = report;
  if (!message) return [book, []];
  // A number that is echoed whole (`ackMM}AA`) ends in one of theirs: it acknowledges nothing more of ours.
  if (report.type === 'ack' || report.type === 'rej')
    return hearReceipt(book, heard, report.type, message as Numbered, context);
  if (message.text === undefined) return [book, []];
  const own = ownEcho(book, from, message);
  if (own) return hearBack(book, own, heard, context);
  const standing = standingOf(report, from, message.addressee, context);
  if (!standing) return [book, []];
  const taken = receive(book, heard, standing, message as Texted, context);
  return standing === 'for me' ? alsoReplyAck(taken, heard, message, context) : taken;
}

type Numbered = Message & { readonly number: string };
type Texted = Message & { readonly text: string };

const isOurs = (call: string, { licence }: BookContext): boolean => callWithoutSsid(call) === licence;

function standingOf(
  { type }: AprsReport,
  from: string,
  addressee: string,
  context: BookContext,
): Standing | undefined {
  if (type === 'telemetry-definition') return undefined;
  if (context.answersFor.includes(addressee)) return 'for me';
  if (isOurs(from, context)) return 'from another of mine';
  if (isOurs(addressee, context)) return 'for another of mine';
  if (type === 'bulletin' || type === 'announcement') return 'bulletin';
  return context.groups.includes(addressee) ? 'group' : undefined;
}

/** Our own message come back. */
function ownEcho(
  { outgoing }: Book,
  from: string,
  { addressee, text, number }: Message,
): Outgoing | undefined {
  return outgoing.findLast(
    (one) =>
      one.from === from && one.to === addressee && octetText(one.text) === text && one.number === number,
  );
}

function hearBack(book: Book, own: Outgoing, { by }: Heard, { atMs }: BookContext): Outcome {
  const last = own.tries.at(-1);
  if (!last) return [book, []];
  const back = { ...(by === undefined ? {} : { by }), afterMs: atMs - last.atMs };
  const tries = own.tries.with(-1, { ...last, heardBack: [...last.heardBack, back] });
  return change(book, own.id, (one) => ({ ...one, tries }));
}

function receive(
  book: Book,
  { id, linkId, from }: Heard,
  standing: Standing,
  { addressee: to, text, number, replyAck }: Texted,
  { atMs, mayLeave }: BookContext,
): Outcome {
  const known = book.received.find(
    (one) => one.from === from && one.to === to && one.text === text && one.number === number,
  );
  // Copies of one try come by several digipeaters, and perhaps by the internet: one that can be answered is.
  const isAnswered = known?.wasAckAsked === true && atMs - known.lastCopyAtMs < SAME_TRY_MS;
  const asksAck = standing === 'for me' && number !== undefined && !isAnswered && mayLeave(to, linkId);
  const asked = asksAck ? { wasAckAsked: true } : {};
  const entry: Received = known
    ? { ...known, ...asked, copies: known.copies + 1, lastCopyAtMs: atMs }
    : {
        id,
        standing,
        from,
        to,
        text,
        ...(number === undefined ? {} : { number }),
        ...(replyAck === undefined ? {} : { usesReplyAcks: true }),
        linkId,
        atMs,
        lastCopyAtMs: atMs,
        copies: 1,
        acksSent: 0,
        ...asked,
      };
  const received = known
    ? book.received.map((one) => (one === known ? entry : one))
    : [...book.received, entry];
  const acks: BookEffect[] =
    asksAck && number !== undefined
      ? [{ kind: 'ack', id: entry.id, from: to, to: from, number, linkId }]
      : [];
  return [{ ...book, received }, [{ kind: 'keep received', message: entry }, ...acks]];
}

/** An acknowledgement or a rejection: of a message of ours, or of one that another device of ours wrote or was sent. */
function hearReceipt(
  book: Book,
  { from, linkId }: Heard,
  type: 'ack' | 'rej',
  { addressee, number }: Numbered,
  context: BookContext,
): Outcome {
  const own = newest(
    book.outgoing,
    (one) => one.from === addressee && one.number === number && isSameHolder(one.to, from),
  );
  if (own) return settle(book, own, type, { by: from, linkId }, context);
  // Heard between others: another device of ours wrote and is answered, or answered what was written to us.
  const between = newest(
    book.received,
    (one) =>
      one.number === number &&
      ((one.from === addressee && isOurs(from, context)) ||
        (one.standing === 'from another of mine' && one.from === addressee && isSameHolder(one.to, from))),
  );
  if (!between || context.answersFor.includes(from) || type === 'rej') return [book, []];
  return changeReceived(book, between.id, (one) => ({ ...one, acknowledgedBy: from }));
}

const isSameHolder = (one: string, other: string): boolean => callWithoutSsid(one) === callWithoutSsid(other);

/** Numbers begin anew: the latest that bears it is meant. */
function newest<Entry>(entries: readonly Entry[], is: (entry: Entry) => boolean): Entry | undefined {
  return entries.findLast(is);
}

/** A message to us in which the sender acknowledges the newest of ours too. */
function alsoReplyAck(
  [book, effects]: Outcome,
  heard: Heard,
  { addressee, replyAck }: Message,
  context: BookContext,
): Outcome {
  if (!replyAck) return [book, effects];
  const [next, more] = hearReceipt(book, heard, 'ack', { addressee, number: replyAck }, context);
  return [next, [...effects, ...more]];
}

function settle(
  book: Book,
  own: Outgoing,
  type: 'ack' | 'rej',
  from: Pick<Answered, 'by' | 'linkId'>,
  { atMs }: BookContext,
): Outcome {
  const isSettled = own.phase.kind === 'acknowledged' || own.phase.kind === 'rejected';
  // A try that waits at the way out has not gone: the answer is to those before it.
  const gone = own.phase.kind === 'leaving' ? own.tries.slice(0, -1) : own.tries;
  const last = gone.at(-1);
  if (isSettled || !last) return [book, []];
  const kind = type === 'ack' ? 'acknowledged' : 'rejected';
  const phase: Phase = { kind, ...from, afterMs: atMs - (gone[0] ?? last).atMs, atTry: gone.length };
  const [next, effects] = change(book, own.id, (one) => ({ ...one, tries: gone, phase }));
  return [next, [...effects, ...withdrawn(own)]];
}

/** Ends what is over, sends what is due and may leave, and waits for what comes next. */
function reckon([book, effects]: Outcome, context: BookContext): Outcome {
  let next = book;
  const all = [...effects];
  const add = ([changed, more]: Outcome): void => {
    next = changed;
    all.push(...more);
  };
  for (const { id } of book.outgoing.filter((one) => isOpen(one) && dueMs(one) <= context.atMs)) {
    const one = next.outgoing.find((message) => message.id === id) as Outgoing;
    if ((one.expiresAtMs ?? Infinity) <= context.atMs) add(end(next, id, 'expired'));
    else if (one.phase.kind !== 'leaving') add(goOn(next, one, context));
  }
  const soonest = Math.min(...next.outgoing.filter(isOpen).map((one) => nextLookMs(one, context)));
  return [
    next,
    [...all, soonest === Infinity ? stop('due') : start('due', Math.max(0, soonest - context.atMs))],
  ];
}

/** When something is to be done about an open message: a try, or its end. */
function dueMs({ phase, expiresAtMs = Infinity }: Outgoing): number {
  return Math.min(expiresAtMs, tryDueMs(phase));
}

function tryDueMs(phase: Phase): number {
  if (phase.kind === 'queued') return phase.notBeforeMs ?? -Infinity;
  return phase.kind === 'waiting' ? phase.untilMs : Infinity;
}

/** What is due and still there waits for the lock, whose opening is told. */
function nextLookMs(one: Outgoing, { atMs }: BookContext): number {
  const tryMs = tryDueMs(one.phase);
  return Math.min(one.expiresAtMs ?? Infinity, tryMs <= atMs ? Infinity : tryMs);
}

function goOn(book: Book, one: Outgoing, { atMs, rules, mayLeave }: BookContext): Outcome {
  const isLast = one.tries.length >= mostTries(one.number !== undefined, rules);
  if (isLast && one.phase.kind === 'waiting') {
    const phase: Phase = { kind: one.number === undefined ? 'told' : 'no answer' };
    return change(book, one.id, (message) => ({ ...message, phase }));
  }
  if (!mayLeave(one.from, one.linkId)) return [book, []];
  const leaving: Outgoing = {
    ...one,
    tries: [...one.tries, { atMs, heardBack: [] }],
    phase: { kind: 'leaving' },
  };
  const [next, effects] = change(book, one.id, () => leaving);
  return [next, [...effects, { kind: 'send', message: leaving, info: infoOf(book, leaving, rules) }]];
}

/** As it goes on the air; to who uses reply-acks, with the newest number of theirs. */
function infoOf({ received }: Book, { from, to, text, number }: Outgoing, rules: MessageRules): string {
  const theirs = received.findLast((one) => one.from === to && one.to === from && one.usesReplyAcks);
  const replyAck = theirs?.number ?? (rules.offersReplyAcks ? '' : undefined);
  return encodeMessage(to, octetText(text), number, number === undefined ? undefined : replyAck);
}
