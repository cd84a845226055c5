import { malformed, type Malformed } from '../bits/malformed.js';

/**
 * The classic capture file (pcap, "libpcap file format"): a 24-octet header, then records.
 * Link type 202, LINKTYPE_AX25_KISS: an AX.25 frame behind one KISS type octet.
 */
export const LINK_TYPE_AX25_KISS = 202;
const MICROSECONDS = 0xa1b2c3d4;
const NANOSECONDS = 0xa1b23c4d;
const HEADER_OCTETS = 24;
const RECORD_OCTETS = 16;
const SNAP_LENGTH = 65_535;
/** A record longer than this is damage, not a frame. */
const LONGEST_RECORD = 262_144;

/** atMs: ms since 1970 UTC; packet: KISS type octet and frame. */
export interface CapturedPacket {
  readonly atMs: number;
  readonly packet: Uint8Array;
}

export function encodePcap(packets: readonly CapturedPacket[]): Uint8Array {
  const size = packets.reduce((sum, { packet }) => sum + RECORD_OCTETS + packet.length, HEADER_OCTETS);
  const octets = new Uint8Array(size);
  const view = new DataView(octets.buffer);
  view.setUint32(0, MICROSECONDS, true);
  view.setUint16(4, 2, true);
  view.setUint16(6, 4, true);
  view.setUint32(16, SNAP_LENGTH, true);
  view.setUint32(20, LINK_TYPE_AX25_KISS, true);
  let at = HEADER_OCTETS;
  for (const { atMs, packet } of packets) {
    view.setUint32(at, Math.floor(atMs / 1000), true);
    view.setUint32(at + 4, Math.floor((atMs % 1000) * 1000), true);
    view.setUint32(at + 8, packet.length, true);
    view.setUint32(at + 12, packet.length, true);
    octets.set(packet, at + RECORD_OCTETS);
    at += RECORD_OCTETS + packet.length;
  }
  return octets;
}

/** Either byte order, microseconds or nanoseconds. What is cut off at the end comes as the last entry, malformed. */
export function decodePcap(octets: Uint8Array): (CapturedPacket | Malformed)[] | Malformed {
  if (octets.length < HEADER_OCTETS) return malformed('shorter than a capture file header', octets.length);
  const view = new DataView(octets.buffer, octets.byteOffset, octets.byteLength);
  const little = [MICROSECONDS, NANOSECONDS].includes(view.getUint32(0, true));
  const magic = view.getUint32(0, little);
  if (magic !== MICROSECONDS && magic !== NANOSECONDS)
    return malformed('not a capture file of the classic form (pcap)');
  const linkType = view.getUint32(20, little) & 0x0fffffff;
  if (linkType !== LINK_TYPE_AX25_KISS)
    return malformed(`link type ${linkType}: only 202 (AX.25 with KISS octet) is read`, 20);
  return decodeRecords(octets, view, little, magic === NANOSECONDS ? 1e6 : 1e3);
}

function decodeRecords(
  octets: Uint8Array,
  view: DataView,
  little: boolean,
  unitsPerMs: number,
): (CapturedPacket | Malformed)[] {
  const packets: (CapturedPacket | Malformed)[] = [];
  let at = HEADER_OCTETS;
  while (at < octets.length) {
    if (at + RECORD_OCTETS > octets.length) return [...packets, malformed('the last record is cut off', at)];
    const length = view.getUint32(at + 8, little);
    const end = at + RECORD_OCTETS + length;
    if (length > LONGEST_RECORD || end > octets.length)
      return [...packets, malformed('a record is longer than the file', at)];
    const atMs = view.getUint32(at, little) * 1000 + view.getUint32(at + 4, little) / unitsPerMs;
    packets.push({ atMs, packet: octets.slice(at + RECORD_OCTETS, end) });
    at = end;
  }
  return packets;
}
