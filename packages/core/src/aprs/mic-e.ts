import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { callWithoutSsid } from '../callsign/callsign.js';
import { MPS_PER_KNOT } from '../units/units.js';
import { base91, fromBase91 } from './base-91.js';
import { encodeComment, readComment } from './comment.js';
import { hundredthsOf, isBelowZero, middleOfBox } from './plain-position.js';
import type { AprsReport, MicE, Telemetry } from './report.js';

/** 1.0.1, "Mic-E data format": latitude, message bits and signs hide in the destination, the rest in the info. */
const STANDARD = [
  'emergency',
  'priority',
  'special',
  'committed',
  'returning',
  'in service',
  'en route',
  'off duty',
];
/** Whatever `micE.message` may be: no octet of the frame says it in letters. */
export const MIC_E_MESSAGES: readonly string[] = [
  ...STANDARD,
  ...Array.from({ length: 7 }, (_, i) => `custom ${i}`),
  'unknown',
];
const SHORTEST = 9;
const OFFSET = 28;
/**
 * The first octet: `` ` `` or 1C current, `'` or 1D old (the control characters are of the first generation). Senders whose
 * text begins with `]` send `'` with current data too ("Mic-E data format": the one exception there).
 */
const CURRENT = '`\x1c';
const CURRENT_ANYHOW = ']';

interface DestinationDigit {
  readonly digit: string;
  readonly bit: 0 | 1;
  readonly custom: boolean;
}

/** Rows of the table "Mic-E destination address field encoding": the ten digits, the blank, bit and kind. */
const ROWS: readonly { first: string; blank: string; bit: 0 | 1; custom: boolean }[] = [
  { first: '0', blank: 'L', bit: 0, custom: false },
  { first: 'A', blank: 'K', bit: 1, custom: true },
  { first: 'P', blank: 'Z', bit: 1, custom: false },
];
const DIGITS: ReadonlyMap<string, DestinationDigit> = new Map(
  ROWS.flatMap(({ first, blank, bit, custom }) => [
    ...Array.from({ length: 10 }, (_, i): [string, DestinationDigit] => [
      String.fromCharCode(first.charCodeAt(0) + i),
      { digit: String(i), bit, custom },
    ]),
    [blank, { digit: ' ', bit, custom }] as [string, DestinationDigit],
  ]),
);

/** info with its type octet; destination with or without SSID. */
export function readMicE(info: string, destination: string): AprsReport | Malformed {
  if (info.length < SHORTEST) return malformed('a Mic-E report has at least 9 octets', info.length);
  const digits = [...callWithoutSsid(destination)].map((character) => DIGITS.get(character));
  if (digits.length !== 6 || digits.some((digit, i) => digit === undefined || (i > 2 && digit.custom)))
    return malformed('the destination is not a Mic-E latitude');
  const known = digits as DestinationDigit[];
  const latitude = readLatitude(known);
  if (isMalformed(latitude)) return latitude;
  const longitudeDeg = readLongitude(info, known, latitude.ambiguityDigits ?? 0);
  if (isMalformed(longitudeDeg)) return longitudeDeg;
  const table = info[8] as string;
  if (!/[/\\0-9A-Z]/.test(table)) return malformed('the symbol table is none that was published', 8);
  const report: AprsReport = {
    type: 'mic-e',
    ...latitude,
    longitudeDeg,
    ...readMovement(info),
    symbol: { code: info[7] as string, table },
    micE: { message: messageOf(known), gpsFix: CURRENT.includes(info[0] as string) ? 'current' : 'old' },
  };
  // Some senders close with CR or CR LF: no part of the text.
  readText(info.slice(SHORTEST).replace(/[\r\n]+$/, ''), report);
  if (info[0] === "'" && report.micE?.prefix === CURRENT_ANYHOW)
    report.micE = { ...report.micE, gpsFix: 'current' };
  return report;
}

function readLatitude(digits: readonly DestinationDigit[]): Partial<AprsReport> | Malformed {
  const text = digits.map(({ digit }) => digit).join('');
  if (!/^\d\d\d* *$/.test(text)) return malformed('the blanks in the latitude are not at its end');
  if (/^\d\d[6-9]/.test(text)) return malformed('the latitude has more than 59 minutes');
  const ambiguityDigits = text.length - text.trimEnd().length;
  const minutes = minutesOf(text.slice(2), ambiguityDigits);
  const degrees = Number(text.slice(0, 2)) + minutes / 60;
  if (degrees > 90) return malformed('the latitude is beyond 90°');
  const north = digits[3]?.bit === 1;
  return { latitudeDeg: north ? degrees : -degrees, ...(ambiguityDigits ? { ambiguityDigits } : {}) };
}

function minutesOf(digits: string, ambiguityDigits: number): number {
  const known = digits.slice(0, 4 - ambiguityDigits).padEnd(4, '0');
  return Number(known) / 100 + middleOfBox(ambiguityDigits);
}

/** "Mic-E information field": d+28 m+28 h+28, with the +100 offset in the destination. */
function readLongitude(
  info: string,
  digits: readonly DestinationDigit[],
  ambiguityDigits: number,
): number | Malformed {
  let degrees = info.charCodeAt(1) - OFFSET + (digits[4]?.bit === 1 ? 100 : 0);
  if (degrees >= 180 && degrees <= 189) degrees -= 80;
  else if (degrees >= 190 && degrees <= 199) degrees -= 190;
  const sentMinutes = info.charCodeAt(2) - OFFSET;
  // 0–9 are sent as 60–69; what lies beyond is none.
  const minutes = sentMinutes > 69 ? -1 : sentMinutes % 60;
  const hundredths = info.charCodeAt(3) - OFFSET;
  if (degrees < 0 || degrees > 179 || minutes < 0 || hundredths < 0 || hundredths > 99)
    return malformed('the Mic-E longitude is out of range', 1);
  const text = String(minutes).padStart(2, '0') + String(hundredths).padStart(2, '0');
  const value = degrees + minutesOf(text, ambiguityDigits) / 60;
  return digits[5]?.bit === 1 ? -value : value;
}

/** "Speed and course": SP+28, DC+28, SE+28 with the wraps of the reference. */
function readMovement(info: string): Partial<AprsReport> {
  const [sp, dc, se] = [4, 5, 6].map((i) => info.charCodeAt(i) - OFFSET) as [number, number, number];
  if (sp < 0 || dc < 0 || se < 0) return {};
  const speed = sp * 10 + Math.floor(dc / 10);
  const course = (dc % 10) * 100 + se;
  const knots = speed >= 800 ? speed - 800 : speed;
  const degrees = course >= 400 ? course - 400 : course;
  return { speedMps: knots * MPS_PER_KNOT, ...(degrees === 0 ? {} : { courseDeg: degrees % 360 }) };
}

function messageOf(digits: readonly DestinationDigit[]): string {
  const three = digits.slice(0, 3);
  const index = three.reduce((value, { bit }) => value * 2 + bit, 0);
  const custom = three.some((digit) => digit.custom);
  const standard = three.some((digit) => digit.bit === 1 && !digit.custom);
  if (custom && standard) return 'unknown';
  if (index === 0) return 'emergency';
  return custom ? `custom ${7 - index}` : (STANDARD[index] as string);
}

/**
 * The status text: telemetry of the older form, or a prefix that tells the sender's kind (1.2 addendum: `>` and `]`
 * perhaps with `=` or `^` at the end, `` ` `` and `'` with two more), altitude, comment.
 */
function readText(text: string, into: AprsReport): void {
  const telemetry = readHexTelemetry(text);
  if (telemetry) {
    into.telemetry = telemetry;
    return;
  }
  const { kind, rest } = readKind(text);
  into.micE = { ...(into.micE as MicE), ...kind };
  const altitude = ALTITUDE.exec(rest);
  if (altitude) into.altitudeM = fromBase91(altitude[1] as string) - 10_000;
  readComment(altitude ? rest.slice(altitude[0].length) : rest, into);
}

/** The two last characters begin with a sign: words are not cut. */
const SIGN_AND_ANY = /[ -/:-@[-`{-~][ -~]$/;

function readKind(text: string): { kind: Pick<MicE, 'prefix' | 'suffix'>; rest: string } {
  const prefix = /^[>\]`']/.exec(text)?.[0];
  // An altitude may begin with one of these signs too.
  if (prefix === undefined || ALTITUDE.test(text)) return { kind: {}, rest: text };
  const suffix = (/[>\]]/.test(prefix) ? /[=^&]$/ : SIGN_AND_ANY).exec(text.slice(1))?.[0];
  const rest = text.slice(1, suffix === undefined ? undefined : -suffix.length);
  return { kind: { prefix, ...(suffix === undefined ? {} : { suffix }) }, rest };
}

/** `"4T}` = altitude in metres above −10 km, base 91 ("Altitude"). */
const ALTITUDE = /^([!-{]{3})\}/;

/** "Mic-E telemetry data" (from memory): `` ` `` and two channels, 1 and 3, or `'` and five, two hex digits each. */
function readHexTelemetry(text: string): Telemetry | undefined {
  const match = /^(?:`[0-9A-F]{4}|'[0-9A-F]{10})$/i.exec(text);
  if (!match) return undefined;
  const analog = (text.slice(1).match(/../g) as string[]).map((pair) => Number.parseInt(pair, 16));
  return { sequence: 'MIC', analog, ...(analog.length === 2 ? { channels: [1, 3] } : {}) };
}

/** A Mic-E report as destination and info. Throws RangeError without a position or with a message that has no code. */
export function encodeMicE(report: AprsReport): { destination: string; info: string } {
  const { latitudeDeg, longitudeDeg, symbol, micE, ambiguityDigits = 0, dao } = report;
  if (latitudeDeg === undefined || longitudeDeg === undefined || !symbol)
    throw new RangeError('a Mic-E report needs position and symbol');
  const cut = dao !== undefined || ambiguityDigits > 0;
  const longitude = hundredthsOf(longitudeDeg, cut);
  const bits = [
    ...messageBits(micE?.message ?? 'off duty'),
    { bit: isBelowZero(latitudeDeg) ? 0 : 1, custom: false },
    { bit: offsetOf(longitude), custom: false },
    { bit: isBelowZero(longitudeDeg) ? 1 : 0, custom: false },
  ];
  return {
    destination: latitudeText(hundredthsOf(latitudeDeg, cut), ambiguityDigits, bits),
    info:
      (micE?.gpsFix === 'old' ? "'" : '`') +
      longitudeText(longitude) +
      movementText(report) +
      symbol.code +
      symbol.table +
      statusText(report),
  };
}

interface MessageBit {
  readonly bit: number;
  readonly custom: boolean;
}

function messageBits(message: string): MessageBit[] {
  const custom = /^custom ([0-6])$/.exec(message);
  const index = custom ? 7 - Number(custom[1]) : STANDARD.indexOf(message);
  if (index < 0) throw new RangeError(`Mic-E has no message "${message}"`);
  return [4, 2, 1].map((mask) => ({ bit: index & mask ? 1 : 0, custom: custom !== null }));
}

function latitudeText(hundredths: number, ambiguityDigits: number, bits: readonly MessageBit[]): string {
  const degrees = Math.floor(hundredths / 6000);
  const figures = String(degrees).padStart(2, '0') + String(hundredths % 6000).padStart(4, '0');
  return [...figures]
    .map((figure, i) => {
      const { bit, custom } = bits[i] as MessageBit;
      const row = ROWS.find((one) => one.bit === bit && one.custom === (bit === 1 && custom)) ?? ROWS[0];
      if (i >= 6 - ambiguityDigits) return row?.blank;
      return String.fromCharCode((row?.first ?? '0').charCodeAt(0) + Number(figure));
    })
    .join('');
}

/** Longitudes 0–9° and from 100° on are sent with the offset ("Longitude degrees encoding"). */
function offsetOf(hundredths: number): number {
  const degrees = Math.floor(hundredths / 6000);
  return degrees < 10 || degrees >= 100 ? 1 : 0;
}

function longitudeText(hundredths: number): string {
  const degrees = Math.min(179, Math.floor(hundredths / 6000));
  const minutes = Math.floor((hundredths % 6000) / 100);
  const d =
    degrees < 10 ? degrees + 90 : degrees < 100 ? degrees : degrees < 110 ? degrees - 20 : degrees - 100;
  const m = minutes < 10 ? minutes + 60 : minutes;
  return String.fromCharCode(d + OFFSET, m + OFFSET, (hundredths % 100) + OFFSET);
}

/** Speeds below 200 kt and all courses are sent in their printable form. */
function movementText({ speedMps = 0, courseDeg }: AprsReport): string {
  const knots = Math.min(799, Math.round(speedMps / MPS_PER_KNOT));
  const course = courseDeg === undefined ? 0 : Math.round(courseDeg) % 360 || 360;
  const tens = Math.floor(knots / 10);
  return String.fromCharCode(
    (tens < 20 ? tens + 80 : tens) + OFFSET,
    (knots % 10) * 10 + Math.floor(course / 100) + 4 + OFFSET,
    (course % 100) + OFFSET,
  );
}

function statusText(report: AprsReport): string {
  const { micE, altitudeM, telemetry } = report;
  if (telemetry?.sequence === 'MIC') return hexTelemetry(telemetry.analog);
  const metres = altitudeM === undefined ? '' : `${base91(Math.round(altitudeM) + 10_000, 3)}}`;
  const words = encodeComment(report, { withoutAltitude: true });
  return (micE?.prefix ?? '') + metres + words + (micE?.suffix ?? '');
}

function hexTelemetry(analog: readonly number[]): string {
  const hex = analog.map((value) => value.toString(16).padStart(2, '0')).join('');
  return (analog.length === 2 ? '`' : "'") + hex;
}
