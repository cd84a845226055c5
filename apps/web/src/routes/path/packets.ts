import { isMalformed } from '@mistpeak/core/bits/malformed';
import { duplicateKey } from '@mistpeak/core/digipeating/digipeater';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { readRecord } from '../../live/views';

/** A packet of the log with its copies, as they came. */
export interface Packet {
  readonly key: string;
  readonly records: readonly FrameRecord[];
}

/** Copies come within so long; later it is the same words sent again. */
const WINDOW_MS = 60_000;

/** Newest first; the copies of one packet together, as they came. frames: oldest first. What was sent here is no part of it. */
export function packetsOf(frames: readonly FrameRecord[]): Packet[] {
  const open = new Map<string, FrameRecord[]>();
  const packets: Packet[] = [];
  for (const record of frames) {
    if (record.direction === 'sent') continue;
    const { view } = readRecord(record);
    if (isMalformed(view)) continue;
    const key = duplicateKey(view.frame);
    const known = open.get(key);
    if (known && record.atMs - (known[0]?.atMs ?? 0) < WINDOW_MS) {
      known.push(record);
      continue;
    }
    const records = [record];
    open.set(key, records);
    packets.push({ key, records });
  }
  return packets.reverse();
}
