import type { Moment, TimerEffect, TimerEvent } from '../machine/machine.js';
import type { Announced, Sid } from './lines.js';
import type { Answer, Precedence, Proposal } from './proposal.js';
import type { TroubleKind } from './trouble.js';

/**
 * The conversation of one end (B2F). The caller proposes first; with each block the turn goes over.
 *
 *   greeting ── SID, challenge, prompt / ;FW, SID, answer ──> our turn <──────────────┐
 *   our turn ── FC…, F> ──> awaiting answers ── FS ──> (blocks) ──> their turn ───────┤
 *   our turn ── FF ──> their turn        our turn, they had nothing ── FQ ──> over    │
 *   their turn ── FC…, F> ──> asking (only over a limit) ── FS ──> receiving ──> keeping
 *   their turn ── FF ──> our turn        their turn ── FQ ──> over
 *
 * What they proposed is confirmed by our next turn, and so only once it is kept; what we sent is confirmed by theirs.
 */
export type Phase =
  | 'not connected'
  | 'greeting'
  | 'our turn'
  | 'awaiting answers'
  | 'their turn'
  | 'asking'
  | 'receiving'
  | 'keeping'
  | 'over';

export type Role = 'caller' | 'called';

/** A message of ours that is ready to go. */
export interface Outgoing extends Proposal {
  readonly precedence: Precedence;
  readonly subject: string;
  readonly to: string;
  readonly from: string;
  /** The container. */
  readonly packed: Uint8Array;
}

/** A message of theirs in the block that they have proposed. */
export interface Incoming extends Proposal {
  readonly answer: Answer;
  /** As they told before, where they did. */
  readonly announced?: Announced;
}

/** The one that comes now. packed: what is there of its container; sum: of the data octets of this transfer. */
export interface Receiving {
  readonly at: number;
  readonly title?: string;
  readonly packed: Uint8Array;
  readonly sum: number;
  /** What a resumed transfer begins with again: the six octets of the head. */
  readonly headOctets: number;
}

export interface Ending {
  readonly kind: TroubleKind | 'done';
  /** In which phase it ended. */
  readonly phase: Phase;
  /** What the other end said about it, where it said something. */
  readonly said?: string;
}

export interface ExchangeState {
  readonly phase: Phase;
  /** Octets that are not read yet. */
  readonly input: Uint8Array;
  readonly sid?: Sid;
  readonly challenge?: string;
  readonly theirAnswer?: string;
  /** For whom they ask for mail. */
  readonly theirAddresses: readonly string[];
  /** Our answer to the challenge was sent, and nothing has come of it yet. */
  readonly loginIsOpen: boolean;
  /** Of this block, of ours. */
  readonly proposed: readonly Outgoing[];
  /** Were sent and are confirmed by their next turn. */
  readonly unconfirmed: readonly string[];
  /** Were dealt with in this conversation, whatever came of it. */
  readonly settled: readonly string[];
  /** The proposals of the block that they are telling. */
  readonly lines: readonly string[];
  readonly incoming: readonly Incoming[];
  readonly receiving?: Receiving;
  readonly unkept: readonly string[];
  readonly announced: readonly Announced[];
  readonly theyHaveNothing: boolean;
  readonly isStopping: boolean;
  /** Octets of lines that say nothing to us. */
  readonly idleOctets: number;
  readonly ending?: Ending;
}

export type ExchangeEvent =
  | { readonly kind: 'connected' }
  | { readonly kind: 'data'; readonly octets: Uint8Array }
  /** Octets of ours went out: the other end is not silent, it listens. */
  | { readonly kind: 'moving' }
  | { readonly kind: 'kept'; readonly mid: string }
  | { readonly kind: 'not kept'; readonly mid: string }
  /** The operator's choice for the proposals that were asked about. */
  | { readonly kind: 'decided'; readonly answers: Readonly<Record<string, 'yes' | 'no' | 'later'>> }
  | { readonly kind: 'stop' }
  | { readonly kind: 'lost' }
  | TimerEvent;

export type ExchangeTimer = 'patience' | 'decision';

export type ExchangeEffect =
  /** mid: of the message whose blocks they are. */
  | { readonly kind: 'say'; readonly octets: Uint8Array; readonly isSecret?: true; readonly mid?: string }
  /** A line as it was said, for the record. */
  | { readonly kind: 'line'; readonly side: 'mine' | 'theirs'; readonly text: string }
  | { readonly kind: 'logged in' }
  | { readonly kind: 'proposed'; readonly side: 'mine' | 'theirs'; readonly proposals: readonly Proposal[] }
  | { readonly kind: 'ask'; readonly incoming: readonly Incoming[] }
  /** Of a message that comes: what is there so far. Kept at leisure, so that a broken link goes on from there. */
  | { readonly kind: 'part'; readonly mid: string; readonly packed: Uint8Array }
  | { readonly kind: 'forget part'; readonly mid: string }
  /** To be kept before anything else: answered by `kept`, or `not kept`. octets: the message, unpacked. */
  | {
      readonly kind: 'keep';
      readonly mid: string;
      readonly octets: Uint8Array;
      readonly packedOctets: number;
    }
  /** had: they had it already, which is as good. */
  | { readonly kind: 'sent'; readonly mid: string; readonly how: 'taken' | 'had' }
  | { readonly kind: 'put off'; readonly mid: string; readonly how: 'later' | 'held' }
  | { readonly kind: 'refused'; readonly mid: string; readonly how: 'rejected' | 'error' }
  | { readonly kind: 'announced'; readonly what: Announced }
  /** As soon as what was said is on its way. */
  | { readonly kind: 'hang up' }
  | { readonly kind: 'ended'; readonly ending: Ending }
  | TimerEffect<ExchangeTimer>;

export interface ExchangeContext extends Moment {
  readonly role: Role;
  /** The station's call with its SSID, and whom it talks to. */
  readonly own: string;
  readonly peer: string;
  readonly locator: string;
  /** Addresses whose mail is asked for, the licence call first. */
  readonly addresses: readonly string[];
  readonly program: Sid;
  /** The answer to a challenge, for one of the own addresses; undefined: the password is not known. */
  readonly answerTo: (challenge: string, address: string) => string | undefined;
  /** Words that a service on TCP asks for before its SID. */
  readonly serviceLogin?: { readonly call: string; readonly word: string };
  /** As called: what the caller must answer, and whether that is right. */
  readonly challenge?: string;
  readonly isRight?: (answer: string | undefined, addresses: readonly string[]) => boolean;
  /** Messages of ours for these addresses, or for whom it may concern as caller. */
  readonly outgoing: (addresses: readonly string[]) => readonly Outgoing[];
  /** What is there of a message: all of it, so much of its container, or another session is taking it right now. */
  readonly has: (mid: string) => 'all' | 'coming' | Uint8Array | undefined;
  /** False: what is offered is put off. */
  readonly takes: boolean;
  /** Above so many octets of container the operator is asked. */
  readonly askOver?: number;
  readonly largestOctets: number;
  readonly announces: boolean;
  readonly patienceMs: number;
}

export const NOT_CONNECTED: ExchangeState = {
  phase: 'not connected',
  input: new Uint8Array(),
  theirAddresses: [],
  loginIsOpen: false,
  proposed: [],
  unconfirmed: [],
  settled: [],
  lines: [],
  incoming: [],
  unkept: [],
  announced: [],
  theyHaveNothing: false,
  isStopping: false,
  idleOctets: 0,
};
