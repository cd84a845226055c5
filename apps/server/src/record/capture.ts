import { isMalformed } from '@mistpeak/core/bits/malformed';
import { decodePcap } from '@mistpeak/core/pcap/pcap';
import { ProblemException } from '../problems/problem.js';

/** Packet radio is not older; a time outside of this is a clock that was never set. */
const EARLIEST_MS = Date.UTC(1980, 0);
const AHEAD_MS = 86_400_000;

export interface CapturedFrame {
  readonly atMs: number;
  readonly port: number;
  readonly raw: Uint8Array;
}

/** The data frames of a capture in order of time, and how many records were none or had no believable time. */
export function readCapture(
  octets: Uint8Array,
  nowMs: number,
): { readonly packets: readonly CapturedFrame[]; readonly refused: number } {
  const records = decodePcap(octets);
  if (isMalformed(records)) throw new ProblemException('not-a-capture');
  const packets: CapturedFrame[] = [];
  for (const record of records) {
    if (isMalformed(record)) continue;
    const { atMs, packet } = record;
    const type = packet[0];
    // The KISS octet: port in the high half, 0 (data) in the low.
    if (type === undefined || (type & 0x0f) !== 0 || atMs < EARLIEST_MS || atMs > nowMs + AHEAD_MS) continue;
    packets.push({ atMs: Math.round(atMs), port: type >> 4, raw: packet.subarray(1) });
  }
  packets.sort((a, b) => a.atMs - b.atMs);
  return { packets, refused: records.length - packets.length };
}
