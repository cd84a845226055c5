/** One message that a book sends. Times in ms of the book's clock, which only goes forward. */
export interface Outgoing {
  readonly id: string;
  /** The station of ours that it comes from. */
  readonly from: string;
  readonly to: string;
  readonly text: string;
  /** Absent where nobody acknowledges: bulletins, announcements, groups. */
  readonly number?: string;
  /** By which way it leaves. */
  readonly linkId: string;
  /** Digipeaters, as `WIDE1-1,WIDE2-1`; empty: direct. */
  readonly path: string;
  readonly writtenAtMs: number;
  /** Of no use after this. */
  readonly expiresAtMs?: number;
  readonly tries: readonly Try[];
  readonly phase: Phase;
}

export interface Try {
  readonly atMs: number;
  /** Our own message heard back, and who repeated it; absent where nobody did. */
  readonly heardBack: readonly { readonly by?: string; readonly afterMs: number }[];
}

/** by: who acknowledged or rejected it; atTry: how many tries had gone out. */
export interface Answered {
  readonly by: string;
  /** By which way the answer came. */
  readonly linkId: string;
  readonly afterMs: number;
  readonly atTry: number;
}

export type Phase =
  /** To go out as soon as it may, not before the time where there is one. */
  | { readonly kind: 'queued'; readonly notBeforeMs?: number; readonly trouble?: string }
  /** With the way out: it may be on the air at any moment, so the try counts. */
  | { readonly kind: 'leaving' }
  /** For the answer, or for the next try. */
  | { readonly kind: 'waiting'; readonly untilMs: number }
  | ({ readonly kind: 'acknowledged' } & Answered)
  | ({ readonly kind: 'rejected' } & Answered)
  | { readonly kind: 'no answer' }
  /** A message that nobody acknowledges, sent as often as planned. */
  | { readonly kind: 'told' }
  | { readonly kind: 'cancelled' }
  | { readonly kind: 'expired' };

export const isOpen = ({ phase }: Outgoing): boolean =>
  phase.kind === 'queued' || phase.kind === 'leaving' || phase.kind === 'waiting';

/** What a message that was heard is to us. */
export type Standing =
  /** To the station that this book answers for. */
  | 'for me'
  /** To another SSID of ours: shown, not acknowledged. */
  | 'for another of mine'
  /** Keyed on another device of ours. */
  | 'from another of mine'
  | 'group'
  | 'bulletin';

/** One message that was heard. */
export interface Received {
  readonly id: string;
  readonly standing: Standing;
  readonly from: string;
  readonly to: string;
  readonly text: string;
  readonly number?: string;
  /** Its sender takes and gives acknowledgements within messages (1.1 addendum, "Reply-Ack"). */
  readonly usesReplyAcks?: boolean;
  readonly linkId: string;
  readonly atMs: number;
  readonly lastCopyAtMs: number;
  /** Times that it was heard, by whatever digipeater. */
  readonly copies: number;
  /** An acknowledgement was asked for by a way that was open. */
  readonly wasAckAsked?: boolean;
  /** Acknowledgements of ours that left; for 'from another of mine' none. */
  readonly acksSent: number;
  /** Who else acknowledged it: another SSID of ours, or the one to whom another of ours wrote. */
  readonly acknowledgedBy?: string;
}

/** The same by another clock: every moment moved by so many ms. */
export function shifted(one: Outgoing, byMs: number): Outgoing {
  const { phase, expiresAtMs } = one;
  const moved: Phase =
    phase.kind === 'waiting'
      ? { ...phase, untilMs: phase.untilMs + byMs }
      : phase.kind === 'queued' && phase.notBeforeMs !== undefined
        ? { ...phase, notBeforeMs: phase.notBeforeMs + byMs }
        : phase;
  return {
    ...one,
    writtenAtMs: one.writtenAtMs + byMs,
    ...(expiresAtMs === undefined ? {} : { expiresAtMs: expiresAtMs + byMs }),
    tries: one.tries.map((each) => ({ ...each, atMs: each.atMs + byMs })),
    phase: moved,
  };
}

/** As `shifted`. */
export function shiftedReceived(one: Received, byMs: number): Received {
  return { ...one, atMs: one.atMs + byMs, lastCopyAtMs: one.lastCopyAtMs + byMs };
}
