import { callWithoutSsid } from '../callsign/callsign.js';
import { wayOf } from '../digipeating/way.js';
import type { Ax25Frame } from '../ax25/frame.js';
import type { AprsReport } from '../aprs/report.js';

/** A frame that could be read. byInternet: it held no channel here. isSent: it is ours, on its way out. octets: of the raw frame. */
export interface HeardPacket {
  readonly id: string;
  /** The end of the frame, ms since 1970 UTC. */
  readonly atMs: number;
  readonly frame: Ax25Frame;
  readonly report?: AprsReport | undefined;
  readonly octets: number;
  readonly byInternet?: boolean;
  readonly isSent?: boolean;
}

export const WAYS = ['direct', 'repeated', 'internet', 'own'] as const;
export type WayKind = (typeof WAYS)[number];

/** By which kind of way it came. ownCall: without SSID; whatever bears it is ours, also when it comes back. */
export function wayKindOf({ frame, byInternet, isSent }: HeardPacket, ownCall?: string): WayKind {
  if (isSent || callWithoutSsid(frame.source) === ownCall) return 'own';
  if (byInternet) return 'internet';
  return wayOf(frame.path).hops === 0 ? 'direct' : 'repeated';
}

/** `direct`, `QH1TOP`, `QH1ANR–QH1TOP`, `internet`, `sent`; a hop that nobody signed is `?`. */
export function wayWords({ frame, byInternet, isSent }: HeardPacket): string {
  if (isSent) return 'sent';
  if (byInternet) return 'internet';
  const { repeaters, hops } = wayOf(frame.path);
  if (hops === 0) return 'direct';
  const unsigned = hops > repeaters.length ? ['?'] : [];
  return [...repeaters, ...unsigned].join('–');
}
