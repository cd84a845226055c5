import { isMalformed } from '@mistpeak/core/bits/malformed';
import {
  ASSUMED_TXDELAY_MS,
  PAST_MS,
  shareHeld,
  type ChannelPast,
} from '@mistpeak/core/stations/channel-past';
import type { ChannelLoad } from '@mistpeak/core/channel-access/access';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView } from '@mistpeak/contract/link';
import { readRecord } from '../live/views';

/** How far back the channel lanes reach. */
export const LANES_SPAN_MS = PAST_MS;

/** When a frame held the channel. A heard frame is stamped at its end, one of ours when it was handed over. */
export function onAir(frame: FrameRecord, link: LinkView | undefined): { fromMs: number; toMs: number } {
  const { airRate = 1200, txDelayMs = ASSUMED_TXDELAY_MS } = link?.settings ?? {};
  const frameMs = (readRecord(frame).bits * 1000) / airRate;
  if (frame.direction === 'sent') return { fromMs: frame.atMs, toMs: frame.atMs + txDelayMs + frameMs };
  return { fromMs: frame.atMs - frameMs, toMs: frame.atMs };
}

/** The share of the last five minutes in which the channel was held, 0 to 1, as far as it was heard. */
export function channelUse(past: ChannelPast | undefined, nowMs: number): number {
  return shareHeld(past ?? [], nowMs, ASSUMED_TXDELAY_MS);
}

/** What the last five minutes say of the channel: who sends how often, whoever repeats included. Undefined: nothing was heard. */
export function channelLoad(
  frames: readonly FrameRecord[],
  past: ChannelPast | undefined,
  link: LinkView,
  nowMs: number,
): ChannelLoad | undefined {
  const heard = frames.filter(
    ({ linkId, atMs, direction }) =>
      linkId === link.id && direction === 'heard' && nowMs - atMs <= LANES_SPAN_MS,
  );
  if (heard.length === 0) return undefined;
  const counts = new Map<string, number>();
  let airMs = 0;
  for (const frame of heard) {
    const { fromMs, toMs } = onAir(frame, link);
    airMs += toMs - fromMs + ASSUMED_TXDELAY_MS;
    const { view } = readRecord(frame);
    if (isMalformed(view)) continue;
    const sender = view.path.repeaters.at(-1) ?? view.frame.source;
    counts.set(sender, (counts.get(sender) ?? 0) + 1);
  }
  return {
    use: channelUse(past, nowMs),
    meanFrameMs: airMs / heard.length,
    senders: [...counts.values()].map((count) => ({ framesPerSecond: (1000 * count) / LANES_SPAN_MS })),
  };
}
