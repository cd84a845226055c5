import { parsePath } from '../digipeating/alias.js';
import { isMalformed } from '../bits/malformed.js';
import type { PathHop } from '../ax25/frame.js';
import type { Position } from '../geo/position.js';
import type { Access } from '../network/channel.js';
import type { RadioEnd } from '../propagation/margin.js';

/** What a station does with what it hears. A gateway passes on to the internet; a plain station only beacons. */
export type LabRole = 'digipeater' | 'fill-in' | 'gateway' | 'station';

/** One station of the channel. packetsPerHour: its own, first copies only; octets: of their info part; path: as it is typed. */
export interface LabStation {
  readonly call: string;
  readonly role: LabRole;
  readonly end: RadioEnd;
  readonly packetsPerHour: number;
  readonly path: string;
  readonly octets: number;
}

/** The channel with all that is on it but the one whose packets are tried. */
export interface Lab {
  readonly stations: readonly LabStation[];
  readonly frequencyMHz: number;
  readonly airRate: number;
  readonly access: Access;
}

/** Who sends what is tried: at one place, or at places along a track, in turn. */
export interface Sender {
  readonly call: string;
  readonly end: RadioEnd;
  readonly places: readonly Position[];
  readonly octets: number;
}

/** What a typed path says; one that nobody could send is none. */
export function hopsOfPath(path: string): readonly PathHop[] {
  const hops = parsePath(path);
  return isMalformed(hops) ? [] : hops;
}

/** Addresses, control and PID of a UI frame with so many entries in its path (AX.25 v2.2). */
const headOctets = (entries: number): number => 14 + 7 * entries + 2;
const FCS_OCTETS = 2;
const FLAG_BITS = 16;
/** arithmetic: among random bits one 0 is stuffed for every 62 (2^6 − 2). */
const STUFFING = 1 + 1 / 62;

/** Time on the air of a packet whose octets nobody knows, ms. */
export function usualAirTimeMs(infoOctets: number, entries: number, { airRate, access }: Lab): number {
  const bits = (headOctets(entries) + infoOctets + FCS_OCTETS) * 8 * STUFFING + FLAG_BITS;
  return access.txDelayMs + (bits * 1000) / airRate + access.txTailMs;
}
