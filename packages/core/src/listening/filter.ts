import { shownText } from '../bits/octets.js';
import { listMisuse } from '../digipeating/misuse.js';
import { wayTo, type Position } from '../geo/position.js';
import type { AprsReport } from '../aprs/report.js';
import { wayKindOf, type HeardPacket, type WayKind } from './heard-packet.js';
import { searchText, searchWords } from './search-text.js';

/** What people tell apart. */
export const PACKET_KINDS = [
  'position',
  'object',
  'message',
  'weather',
  'telemetry',
  'status',
  'session',
  'other',
] as const;
export type PacketKind = (typeof PACKET_KINDS)[number];

/** What is wanted; what is absent or empty is not asked for. station: a call, or its beginning; words: each has to occur. */
export interface PacketFilter {
  readonly kinds?: readonly PacketKind[];
  readonly ways?: readonly WayKind[];
  /** From here; a packet without a place does not fit. */
  readonly withinKm?: number;
  readonly station?: string;
  readonly words?: string;
  /** Only what breaks a rule of the path. */
  readonly misuse?: boolean;
}

/** Who looks: where he is, and under which call without SSID. */
export interface Looker {
  readonly position?: Position | undefined;
  readonly call?: string | undefined;
}

export function kindOfPacket({ frame, report }: Pick<HeardPacket, 'frame' | 'report'>): PacketKind {
  if (frame.control.kind !== 'UI') return 'session';
  const inner = innermost(report);
  if (!inner) return 'other';
  if (inner.weather || inner.rawWeather) return 'weather';
  switch (inner.type) {
    case 'object':
    case 'item':
      return 'object';
    case 'message':
    case 'ack':
    case 'rej':
    case 'bulletin':
    case 'announcement':
      return 'message';
    case 'telemetry':
    case 'telemetry-definition':
      return 'telemetry';
    case 'status':
      return 'status';
    case 'position':
    case 'mic-e':
    case 'nmea':
      return 'position';
    default:
      return 'other';
  }
}

function innermost(report: AprsReport | undefined): AprsReport | undefined {
  let inner = report;
  while (inner?.thirdParty) inner = inner.thirdParty.report;
  return inner;
}

/** Whether a packet is wanted. */
export function fits(filter: PacketFilter, packet: HeardPacket, looker: Looker = {}): boolean {
  const { kinds = [], ways = [], withinKm, station = '', words = '', misuse = false } = filter;
  if (kinds.length > 0 && !kinds.includes(kindOfPacket(packet))) return false;
  if (ways.length > 0 && !ways.includes(wayKindOf(packet, looker.call))) return false;
  if (misuse && listMisuse(packet.frame.path).length === 0) return false;
  if (station !== '' && !namesOf(packet).some((name) => name.startsWith(station.trim().toUpperCase())))
    return false;
  if (withinKm !== undefined && !isWithin(packet, withinKm, looker.position)) return false;
  const wanted = searchWords(words);
  if (wanted.length === 0) return true;
  const text = searchText(packet);
  return wanted.every((word) => text.includes(word));
}

/** Who speaks in it, and of what. */
function namesOf({ frame, report }: HeardPacket): string[] {
  const names = [frame.source];
  for (let inner = report; inner; inner = inner.thirdParty?.report) {
    if (inner.thirdParty) names.push(shownText(inner.thirdParty.source));
    if (inner.object) names.push(shownText(inner.object.name).toUpperCase());
  }
  return names;
}

function isWithin({ report }: HeardPacket, km: number, from: Position | undefined): boolean {
  const inner = innermost(report);
  if (!from || inner?.latitudeDeg === undefined || inner.longitudeDeg === undefined) return false;
  const place = { latitudeDeg: inner.latitudeDeg, longitudeDeg: inner.longitudeDeg };
  return wayTo(from, place).distanceKm <= km;
}
