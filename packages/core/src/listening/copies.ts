import { duplicateKey, USUAL_DUPLICATE_WINDOW_MS } from '../digipeating/digipeater.js';
import type { HeardPacket } from './heard-packet.js';

/** One packet, however often it was heard: the copies in the order in which they came. */
export interface FoldedPacket<Packet extends HeardPacket = HeardPacket> {
  readonly first: Packet;
  readonly copies: readonly Packet[];
}

/** A copy by the internet may come this much later than the first (common practice, no source). */
export const COPY_WITHIN_MS = 2 * USUAL_DUPLICATE_WINDOW_MS;

/**
 * Copies of one packet as one, packets in the order of their first copy. packets: oldest first. A copy comes within a minute of
 * the first; connected-mode frames are never copies of one another, since a repeat there is a frame of its own, and what we send
 * again is a packet of its own, which the copies that come after it belong to.
 */
export function foldCopies<Packet extends HeardPacket>(packets: readonly Packet[]): FoldedPacket<Packet>[] {
  const folded: { first: Packet; copies: Packet[] }[] = [];
  const open = new Map<string, { first: Packet; copies: Packet[] }>();
  for (const packet of packets) {
    const key = packet.frame.control.kind === 'UI' ? duplicateKey(packet.frame) : packet.id;
    const known = open.get(key);
    if (known && !packet.isSent && packet.atMs - known.first.atMs <= COPY_WITHIN_MS) {
      known.copies.push(packet);
      continue;
    }
    const fresh = { first: packet, copies: [packet] };
    open.set(key, fresh);
    folded.push(fresh);
  }
  return folded;
}
