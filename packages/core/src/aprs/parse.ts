import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { toLatin1 } from '../bits/octets.js';
import { readMessage } from './message.js';
import { readMicE } from './mic-e.js';
import { readItem, readObject } from './object.js';
import { readPositionReport } from './position-report.js';
import type { AprsReport, AprsType } from './report.js';
import { readTimestamp } from './timestamp.js';
import { readWeather } from './weather.js';

type Reader = (info: string, destination: string) => AprsReport | Malformed;

/** 1.0.1, "APRS data type identifiers": the first octet tells the kind. */
const READERS: Record<string, Reader> = {
  '!': readPositionReport,
  '=': readPositionReport,
  '/': readPositionReport,
  '@': readPositionReport,
  '`': readMicE,
  "'": readMicE,
  '\x1c': readMicE,
  '\x1d': readMicE,
  ':': readMessage,
  ';': readObject,
  ')': readItem,
  '>': readStatus,
  _: readPositionlessWeather,
  T: ofType('telemetry'),
  '?': ofType('query'),
  '<': ofType('capabilities'),
  '}': ofType('third-party'),
  $: ofType('nmea'),
  '{': ofType('user-defined'),
};

/**
 * Reads an info field. destination: the frame's, which carries part of a Mic-E report.
 * What cannot be read is `unknown` with the reason; the caller keeps the raw octets. Never throws.
 */
export function parseAprs(info: Uint8Array, destination: string): AprsReport {
  if (info.length === 0) return { type: 'unknown', reason: 'the info field is empty' };
  const text = toLatin1(info);
  const reader = Object.hasOwn(READERS, text[0] as string) ? READERS[text[0] as string] : undefined;
  if (!reader)
    return { type: 'unknown', reason: `no APRS data type begins with ${shown(info[0] as number)}` };
  const report = reader(text, destination);
  return isMalformed(report) ? { type: 'unknown', reason: report.malformed } : report;
}

function shown(octet: number): string {
  return octet > 0x20 && octet < 0x7f
    ? `"${String.fromCharCode(octet)}"`
    : `octet ${octet.toString(16).padStart(2, '0')}`;
}

/** The kind is known by its first octet; its fields are not taken apart here. */
function ofType(type: AprsType): Reader {
  return () => ({ type });
}

function readStatus(info: string): AprsReport {
  const timestamp = readTimestamp(info.slice(1));
  const status = info.slice(1 + (timestamp?.text.length ?? 0)).trimEnd();
  return { type: 'status', ...(timestamp ? { timestamp } : {}), status };
}

/** 1.0.1, "Positionless weather report": `_` MDHM, then the fields. */
function readPositionlessWeather(info: string): AprsReport | Malformed {
  const time = /^_(\d{8})/.exec(info)?.[1];
  if (!time) return malformed('a weather report without position begins with its time, MDHM', 1);
  const { weather, rest } = readWeather(info.slice(9));
  const comment = rest.trim();
  return {
    type: 'weather',
    timestamp: { form: 'mdhm', text: time },
    weather,
    ...(comment ? { comment } : {}),
  };
}
