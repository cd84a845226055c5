/** Every rung of the ladder, in the order of the way up. */
export const RUNGS = [
  'port open',
  'TNC talks',
  'level in the window',
  'packet decoded',
  'handed to the TNC',
  'keyed',
  'repeated',
  'at a gateway',
  'message acknowledged',
  'far station answered',
  'data both ways',
  'logged in to mail',
  'mail sent',
  'mail received',
  'self-test answered',
] as const;
export type Rung = (typeof RUNGS)[number];

/** The rungs that Mistpeak itself gathers evidence of so far; those of more kinds come with their parts. */
export const OBSERVED: readonly Rung[] = [
  'port open',
  'TNC talks',
  'packet decoded',
  'handed to the TNC',
  'keyed',
  'repeated',
  'message acknowledged',
  'far station answered',
  'data both ways',
  'logged in to mail',
  'mail sent',
  'mail received',
  'self-test answered',
];

/**
 * What lit a rung: append-only, with a copy of the octets that did.
 * atMs: ms since 1970 UTC; rawHex: the frame, where it was one. Of a link, or, where the chain ends in another app and
 * the operator ticks what was seen there, of a chain.
 */
export interface Evidence {
  readonly id: string;
  readonly linkId?: string;
  readonly chainId?: string;
  readonly rung: Rung;
  readonly atMs: number;
  /** spoilt: from then on what was measured before says nothing more, or something speaks against it. */
  readonly kind: 'frame' | 'measurement' | 'tick' | 'link' | 'spoilt';
  readonly words: string;
  readonly rawHex?: string;
}
