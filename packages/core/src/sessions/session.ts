import type { Modulo } from '../ax25/control.js';
import type { Reassembly } from '../ax25/segmentation.js';
import type { Moment, TimerEffect, TimerEvent } from '../machine/machine.js';

/**
 * One end of an AX.25 v2.2 connection (TAPR/ARRL 1998, appendix "Data-link SDL diagrams"): what it knows and what passes
 * in and out. Times in ms on any clock that does not go back.
 */

/** What is fixed for the life of the link. */
export interface SessionOptions {
  readonly own: string;
  readonly peer: string;
  /** Digipeaters on the way, in order from here. */
  readonly via: readonly string[];
  /** PACLEN: longest information field that is sent, octets (N1). */
  readonly packetOctets: number;
  /** MAXFRAME: most frames on the way unacknowledged (k), for each numbering; 1–7 and 1–127. */
  readonly window8: number;
  readonly window128: number;
  /** N2: how often without progress before the link is given up. */
  readonly retries: number;
  /** T1 before anything was measured, and the least that it may become. */
  readonly firstT1Ms: number;
  readonly leastT1Ms: number;
  /** An answer to a question just sent cannot come before this: what comes sooner answers an earlier one. */
  readonly earliestAnswerMs: number;
  /** T2: how long an acknowledgement may wait for more frames. */
  readonly t2Ms: number;
  /** T3: how long nothing may be heard before the other end is asked whether it is there. */
  readonly t3Ms: number;
  /** v2.2 with numbers to 127 (SABME): asked for first, and granted. */
  readonly extended: boolean;
  /**
   * Ask for single frames again (SREJ) also with numbers to 7; with numbers to 127 that is always so. Both ends must do it
   * (agreed by XID, or known): a window of more than 4 would make old frames and new ones look alike.
   */
  readonly selective: boolean;
  /** Whether a call from the other end is taken. */
  readonly accepts: boolean;
  /** Once a link with numbers to 127 stands, the other end is asked by XID what it takes. */
  readonly negotiates: boolean;
}

/** XID is asked again by a timer of its own (TM201, "Management data-link"). */
export type SessionTimer = 'T1' | 'T2' | 'T3' | 'XID';

/** What goes into one information frame. */
export interface Piece {
  readonly pid: number;
  readonly octets: Uint8Array;
  /** How many of the user's octets it holds, where that is not all of them. */
  readonly carries?: number;
}

/** What the other end said by XID that it takes. */
export interface Limits {
  readonly packetOctets: number;
  readonly window: number;
  readonly segments: boolean;
}

/** What outlasts a life of the link. */
interface Lasting {
  /** Of the life that stands, or of the last one. */
  readonly modulo: Modulo;
  readonly selective: boolean;
  readonly ownBusy: boolean;
  readonly roundTripMs: number;
  readonly t1Ms: number;
  /** For the operator: frames sent again, timeouts, N(R) from the past that were passed over. */
  readonly resent: number;
  readonly timeouts: number;
  readonly stale: number;
  /** How often the other end asked for frames again (REJ, SREJ), and we did. */
  readonly rejected: number;
  readonly rejects: number;
}

/** Timeouts since there was progress (RC). */
interface Trying {
  readonly rc: number;
}

/** Answers to SABM that may still come: of this setting up, and of earlier ones. */
interface Answers {
  readonly dueAnswers: number;
  readonly oldAnswers: number;
}

export interface Disconnected extends Lasting {
  readonly phase: 'disconnected';
}

export interface AwaitingConnection extends Lasting, Trying, Answers {
  readonly phase: 'awaiting connection';
  /** We asked for the connection, so its end is told as connected, not as reset. */
  readonly calling: boolean;
  /** SABME was refused and SABM is asked: until T1 rings, DM may be another copy of that refusal. */
  readonly fellBack: boolean;
  /** Nothing at all was heard of the other end while it is called. */
  readonly silent: boolean;
  readonly askedAtMs: number;
  /** Not sent yet. */
  readonly pending: readonly Piece[];
  readonly running: ReadonlySet<'T1'>;
}

export interface AwaitingRelease extends Lasting, Trying {
  readonly phase: 'awaiting release';
  /** What the other end has not confirmed, and nobody sends any more. */
  readonly window: readonly Piece[];
  readonly pending: readonly Piece[];
  readonly running: ReadonlySet<'T1'>;
}

export interface Standing extends Lasting, Trying, Answers {
  /** In timer recovery the other end was asked whether it is there, and its answer is awaited. */
  readonly phase: 'connected' | 'timer recovery';
  /** Next to send, oldest unacknowledged, next expected: V(S), V(A), V(R). */
  readonly vs: number;
  readonly va: number;
  readonly vr: number;
  /** Sent at least once, from V(A) on; and not sent yet. */
  readonly window: readonly Piece[];
  readonly pending: readonly Piece[];
  /** Received ahead of their turn, by number; and numbers that were asked for again. */
  readonly early: ReadonlyMap<number, Piece>;
  readonly asked: ReadonlySet<number>;
  readonly peerBusy: boolean;
  /** REJ was sent and what it asks for has not come. */
  readonly rejecting: boolean;
  /** Information frames received and not acknowledged. */
  readonly unacknowledged: number;
  /** Anything was received or acknowledged since the link stands. */
  readonly settled: boolean;
  /** How much of the window is used: halved by a timeout, one more with each acknowledgement. */
  readonly room: number;
  /** When T1 was started for frames sent for the first time: a clean measurement (Karn's rule). */
  readonly timedAtMs: number | undefined;
  readonly limits: Limits | undefined;
  /** XID was asked so often and is not answered; 0: it is not asked. */
  readonly xidAsked: number;
  /** Segments of theirs that wait for the rest. */
  readonly gathered: Reassembly;
  readonly running: ReadonlySet<SessionTimer>;
}

/** Each phase holds what has a meaning in it, and nothing else. */
export type SessionState = Disconnected | AwaitingConnection | AwaitingRelease | Standing;
export type Phase = SessionState['phase'];

/** heard: a frame as it came, addresses to info; frames for others are passed over. busy: this end can take no more. */
export type SessionEvent =
  | { readonly kind: 'connect' }
  | { readonly kind: 'disconnect' }
  /** The other end may believe that a link stands of which this end knows nothing more. */
  | { readonly kind: 'let go' }
  | { readonly kind: 'send'; readonly octets: Uint8Array; readonly pid?: number }
  | { readonly kind: 'busy'; readonly on: boolean }
  | { readonly kind: 'heard'; readonly octets: Uint8Array }
  | TimerEvent;

export type DisconnectReason = 'asked for' | 'by the other end' | 'no answer' | 'refused';

/** The letters are those of the standard's error table, where it has one. */
export type SessionTrouble =
  | 'C: UA without a question'
  | 'J: N(R) out of sequence'
  | 'K: frame rejected by the other end'
  | 'L: control field without a meaning'
  | 'M: information where none may be'
  | 'N: length wrong for its kind'
  | 'O: more information than was agreed'
  | 'unreadable frame'
  | 'a segment is missing';

export type SessionEffect =
  | { readonly kind: 'transmit'; readonly octets: Uint8Array }
  | TimerEffect<SessionTimer>
  | { readonly kind: 'connected'; readonly modulo: Modulo; readonly calledBy: 'us' | 'them' }
  | { readonly kind: 'disconnected'; readonly reason: DisconnectReason; readonly lostOctets: number }
  /** A new life of the link begins: what was queued here is gone, what the other end had queued too. */
  | { readonly kind: 'reset'; readonly lostOctets: number }
  | { readonly kind: 'data'; readonly octets: Uint8Array; readonly pid: number }
  /** The other end has so many more octets. */
  | { readonly kind: 'confirmed'; readonly octets: number }
  | { readonly kind: 'trouble'; readonly what: SessionTrouble };

/** What a step of a session is to know. */
export interface SessionContext extends Pick<Moment, 'atMs'> {
  readonly options: SessionOptions;
  /** Frames of ours have not left yet: who has not been asked cannot be late with an answer. */
  readonly unsent?: boolean;
}

/** The idle state of a link that may be called or call. */
export function disconnectedSession({ selective, firstT1Ms }: SessionOptions): Disconnected {
  return {
    phase: 'disconnected',
    modulo: 8,
    selective,
    ownBusy: false,
    roundTripMs: firstT1Ms / 2,
    t1Ms: firstT1Ms,
    resent: 0,
    timeouts: 0,
    stale: 0,
    rejected: 0,
    rejects: 0,
  };
}
