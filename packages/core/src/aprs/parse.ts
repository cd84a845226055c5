import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { toLatin1 } from '../bits/octets.js';
import { parseLocator } from '../geo/locator.js';
import { readMessage } from './message.js';
import { readMicE } from './mic-e.js';
import { readNmea } from './nmea.js';
import { readItem, readObject } from './object.js';
import { readPositionReport } from './position-report.js';
import { readCapabilities, readQuery } from './query.js';
import { isRawWeather, readRawWeather } from './raw-weather.js';
import type { AprsReport } from './report.js';
import { readStatus } from './status.js';
import { readTelemetry } from './telemetry.js';
import { readThirdParty } from './third-party.js';
import { MDHM_LENGTH, readMdhm } from './timestamp.js';
import { readWeather } from './weather.js';

type Reader = (info: string, destination: string, depth: number) => AprsReport | Malformed;

/** 1.0.1, "APRS data type identifiers": the first octet tells the kind. */
const READERS: ReadonlyMap<string, Reader> = new Map<string, Reader>([
  ['!', readPositionReport],
  ['=', readPositionReport],
  ['/', readPositionReport],
  ['@', readPositionReport],
  ['`', readMicE],
  ["'", readMicE],
  ['\x1c', readMicE],
  ['\x1d', readMicE],
  [':', readMessage],
  [';', readObject],
  [')', readItem],
  ['>', readStatus],
  ['_', readPositionlessWeather],
  ['T', readTelemetry],
  ['?', readQuery],
  ['<', readCapabilities],
  ['}', (info, _, depth) => readThirdParty(info, parse, depth)],
  ['$', readNmea],
  ['{', readUserDefined],
  ['[', readLocatorBeacon],
  [',', () => malformed('invalid or test data')],
]);

/** A node's header may stand before a position, which then begins with the `!` found in the first 40 characters. */
const FURTHEST_POSITION = 40;
/** Letters with which a node's header may begin though they have a meaning of their own, if they do not have it there. */
const MAY_BE_HEADER: ReadonlySet<string> = new Set(['T', '$']);

/**
 * Reads an info field. destination: the frame's, which carries part of a Mic-E report.
 * What cannot be read is `unknown` with the reason; the caller keeps the raw octets. Never throws.
 */
export function parseAprs(info: Uint8Array, destination: string): AprsReport {
  return parse(info, destination, 0);
}

function parse(info: Uint8Array, destination: string, depth: number): AprsReport {
  if (info.length === 0) return { type: 'unknown', reason: 'the info field is empty' };
  const text = toLatin1(info);
  const reader = isRawWeather(text) ? readRawWeather : READERS.get(text[0] as string);
  const own = reader?.(text, destination, depth);
  const isHeader = own === undefined || (isMalformed(own) && MAY_BE_HEADER.has(text[0] as string));
  const behind = isHeader ? behindHeader(text, info[0] as number) : undefined;
  const report =
    own === undefined || (behind && !isMalformed(behind)) ? (behind as AprsReport | Malformed) : own;
  return isMalformed(report) ? { type: 'unknown', reason: report.malformed } : report;
}

/** 1.0.1, "Position report with a header of a node": `!` up to position 40. */
function behindHeader(text: string, first: number): AprsReport | Malformed {
  const at = text.slice(0, FURTHEST_POSITION).indexOf('!');
  const report = at < 0 ? malformed('') : readPositionReport(text.slice(at));
  return isMalformed(report) ? malformed(`no APRS data type begins with ${shown(first)}`) : report;
}

function shown(octet: number): string {
  return octet > 0x20 && octet < 0x7f
    ? `"${String.fromCharCode(octet)}"`
    : `octet ${octet.toString(16).padStart(2, '0')}`;
}

/** 1.0.1, "Positionless weather report": `_` MDHM, then the fields. */
function readPositionlessWeather(info: string): AprsReport | Malformed {
  const timestamp = readMdhm(info.slice(1));
  const { weather, rest } = readWeather(info.slice(1 + MDHM_LENGTH));
  if (!timestamp && Object.keys(weather).length === 0)
    return malformed('a weather report without position begins with its time, MDHM', 1);
  const comment = rest.trim();
  return { type: 'weather', ...(timestamp ? { timestamp } : {}), weather, ...(comment ? { comment } : {}) };
}

/** 1.0.1, "User-defined data format": `{`, user id, type, data. */
function readUserDefined(info: string): AprsReport | Malformed {
  if (info.length < 3) return malformed('user-defined data has a user id and a type', info.length);
  const userDefined = { userId: info[1] as string, packetType: info[2] as string, data: info.slice(3) };
  return { type: 'user-defined', userDefined };
}

/** 1.0.1, "Maidenhead grid locator beacon" (called obsolete): `[IO91SX] 35 miles NNW of town`. */
function readLocatorBeacon(info: string): AprsReport | Malformed {
  const match = /^\[([A-Z]{2}\d{2}(?:[A-Z]{2})?)\]/i.exec(info);
  const centre = match ? parseLocator(match[1] as string) : malformed('a locator beacon is [IO91SX]', 1);
  if (isMalformed(centre)) return centre;
  const comment = info.slice((match as RegExpExecArray)[0].length).trim();
  const locator = (match as RegExpExecArray)[1] as string;
  return { type: 'position', ...centre, locator, ...(comment ? { comment } : {}) };
}
