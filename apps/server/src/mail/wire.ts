/** What a conversation is carried by, whatever it is made of. */
export interface MailWire {
  /** isSecret: dots stand for it in every record. */
  say(octets: Uint8Array, isSecret: boolean): void;
  /** As soon as all that was said is there. */
  hangUp(): void;
  /** Now. */
  drop(): void;
}

/** What a wire tells whoever talks over it. */
export interface WireEvents {
  readonly connected: () => void;
  readonly data: (octets: Uint8Array) => void;
  /** So many octets of ours, in all, are known to be there. */
  readonly confirmed: (octets: number) => void;
  /** result: why, in one word; words: for the operator. Once. */
  readonly ended: (result: WireEnd, words: string) => void;
}

export type WireEnd = 'ended' | 'no answer' | 'refused' | 'demo call' | 'locked' | 'no way';
