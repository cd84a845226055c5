/**
 * What held a channel in the last five minutes, in spans of two seconds: so much is kept however many frames there were.
 * Times in ms since 1970.
 */
export const PAST_MS = 300_000;
export const SPAN_MS = 2000;

/** What a frame of somebody else held the channel before its first flag is not known; 300 ms is usual (common practice, no source). */
export const ASSUMED_TXDELAY_MS = 300;

/** mine, heard direct, over one hop, over more. */
export const LANES = ['mine', 'direct', '1 hop', '2+ hops'] as const;

/** airMs: how long frames of each lane held the channel, without TXDELAY; heard: how many others' frames there were. */
export interface ChannelSpan {
  readonly fromMs: number;
  readonly airMs: readonly number[];
  readonly heard: number;
}

/** Oldest first. */
export type ChannelPast = readonly ChannelSpan[];

/** The lane of a frame; hops: how many repeats are behind it, undefined where its path could not be read. */
export function laneOf(direction: 'heard' | 'sent', hops: number | undefined): number {
  return direction === 'sent' ? 0 : Math.min(LANES.length - 1, (hops ?? 0) + 1);
}

/** One frame more; what is older than five minutes before it is forgotten. */
export function noteOnAir(
  past: ChannelPast,
  { atMs, lane, airMs }: { readonly atMs: number; readonly lane: number; readonly airMs: number },
): ChannelPast {
  const fromMs = Math.floor(atMs / SPAN_MS) * SPAN_MS;
  const kept = past.filter((span) => span.fromMs > fromMs - PAST_MS && span.fromMs <= fromMs);
  const last = kept.at(-1);
  const before = last?.fromMs === fromMs ? last : { fromMs, airMs: LANES.map(() => 0), heard: 0 };
  const span = {
    fromMs,
    airMs: before.airMs.map((ms, i) => (i === lane ? ms + airMs : ms)),
    heard: before.heard + (lane === 0 ? 0 : 1),
  };
  return [...(before === last ? kept.slice(0, -1) : kept), span];
}

/** The share of the last five minutes in which the channel was held, 0–1. assumedTxDelayMs: of others, which cannot be known. */
export function shareHeld(past: ChannelPast, nowMs: number, assumedTxDelayMs: number): number {
  const heldMs = past
    .filter(({ fromMs }) => nowMs - fromMs <= PAST_MS && fromMs <= nowMs)
    .reduce((sum, { airMs, heard }) => sum + airMs.reduce((a, b) => a + b, 0) + heard * assumedTxDelayMs, 0);
  return Math.min(1, heldMs / PAST_MS);
}
