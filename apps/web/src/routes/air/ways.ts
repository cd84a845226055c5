import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { readRecord } from '../../live/views';

/** The repeaters of a heard frame in order, `A › B`; empty: direct. */
export function wayText(record: FrameRecord): string | undefined {
  const { view } = readRecord(record);
  return isMalformed(view) || record.direction === 'sent' ? undefined : view.path.repeaters.join(' › ');
}

/** How often frames came by each way, the most used first. */
export function waysOf(frames: readonly FrameRecord[]): { way: string; count: number }[] {
  const counts = new Map<string, number>();
  for (const frame of frames) {
    const way = wayText(frame);
    if (way !== undefined) counts.set(way, (counts.get(way) ?? 0) + 1);
  }
  return [...counts].map(([way, count]) => ({ way, count })).sort((a, b) => b.count - a.count);
}

/** Frames heard in a stretch of time, by the number of hops: what a bar shows. */
export interface HeardBar {
  readonly fromMs: number;
  readonly direct: number;
  readonly oneHop: number;
  readonly moreHops: number;
}

/** Equal stretches up to now, oldest first. */
export function heardBars(
  frames: readonly FrameRecord[],
  nowMs: number,
  stretchMs: number,
  count: number,
): HeardBar[] {
  const endMs = Math.ceil(nowMs / stretchMs) * stretchMs;
  const bars = Array.from({ length: count }, (_, i) => ({
    fromMs: endMs - (count - i) * stretchMs,
    direct: 0,
    oneHop: 0,
    moreHops: 0,
  }));
  for (const frame of frames) {
    const { view } = readRecord(frame);
    const bar = bars[Math.floor((frame.atMs - (endMs - count * stretchMs)) / stretchMs)];
    if (!bar || isMalformed(view) || frame.direction === 'sent') continue;
    if (view.path.hops === 0) bar.direct++;
    else if (view.path.hops === 1) bar.oneHop++;
    else bar.moreHops++;
  }
  return bars;
}
