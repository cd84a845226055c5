/** The rungs whose evidence can be gathered so far; proof of more kinds comes with their parts. */
export type Rung = 'port open' | 'TNC talks' | 'packet decoded' | 'handed to the TNC' | 'keyed' | 'repeated';

/**
 * What lit a rung: append-only, with a copy of the octets that did.
 * atMs: ms since 1970 UTC; rawHex: the frame, where it was one; by: the digipeater of an echo.
 */
export interface Evidence {
  readonly id: string;
  readonly linkId: string;
  readonly rung: Rung;
  readonly atMs: number;
  readonly kind: 'frame' | 'measurement' | 'tick' | 'link';
  readonly words: string;
  readonly rawHex?: string;
}
