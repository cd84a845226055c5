import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { callWithoutSsid } from '../callsign/callsign.js';
import { MPS_PER_KNOT } from '../units/units.js';
import { fromBase91 } from './compressed-position.js';
import type { AprsReport } from './report.js';

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
const SHORTEST = 9;

interface DestinationDigit {
  readonly digit: string;
  readonly bit: 0 | 1;
  readonly custom: boolean;
}

/** The table of destination characters: 0–9 · A–J custom with digit · K blank · L blank, bit 0 · P–Y digit · Z blank. */
function destinationDigit(character: string): DestinationDigit | undefined {
  const code = character.charCodeAt(0);
  if (/[0-9]/.test(character)) return { digit: character, bit: 0, custom: false };
  if (/[A-J]/.test(character)) return { digit: String(code - 65), bit: 1, custom: true };
  if (character === 'K') return { digit: ' ', bit: 1, custom: true };
  if (character === 'L') return { digit: ' ', bit: 0, custom: false };
  if (/[P-Y]/.test(character)) return { digit: String(code - 80), bit: 1, custom: false };
  if (character === 'Z') return { digit: ' ', bit: 1, custom: false };
  return undefined;
}

/** info with its type octet; destination with or without SSID. */
export function readMicE(info: string, destination: string): AprsReport | Malformed {
  if (info.length < SHORTEST) return malformed('a Mic-E report has at least 9 octets', info.length);
  const digits = [...callWithoutSsid(destination)].map(destinationDigit);
  if (digits.length !== 6 || digits.some((digit) => digit === undefined))
    return malformed('the destination is not a Mic-E latitude');
  const known = digits as DestinationDigit[];
  const latitude = readLatitude(known);
  if (isMalformed(latitude)) return latitude;
  const longitudeDeg = readLongitude(info, known, latitude.ambiguityDigits ?? 0);
  if (isMalformed(longitudeDeg)) return longitudeDeg;
  return {
    type: 'mic-e',
    ...latitude,
    longitudeDeg,
    ...movement(info),
    symbol: { code: info[7] as string, table: info[8] as string },
    micE: { message: messageOf(known), gpsFix: /[`\x1c]/.test(info[0] as string) ? 'current' : 'old' },
    ...remainder(info.slice(SHORTEST)),
  };
}

function readLatitude(digits: readonly DestinationDigit[]): Partial<AprsReport> | Malformed {
  const text = digits.map(({ digit }) => digit).join('');
  if (!/^\d\d\d* *$/.test(text)) return malformed('the blanks in the latitude are not at its end');
  const ambiguityDigits = text.length - text.trimEnd().length;
  const minutes = minutesOf(text.slice(2), ambiguityDigits);
  const degrees = Number(text.slice(0, 2)) + minutes / 60;
  if (degrees > 90) return malformed('the latitude is beyond 90°');
  const north = digits[3]?.bit === 1;
  return { latitudeDeg: north ? degrees : -degrees, ...(ambiguityDigits ? { ambiguityDigits } : {}) };
}

function minutesOf(digits: string, ambiguityDigits: number): number {
  const half = [0, 0.05, 0.5, 5, 30][ambiguityDigits] ?? 0;
  return Number(digits.slice(0, 4 - ambiguityDigits).padEnd(4, '0')) / 100 + half;
}

/** "Mic-E information field": d+28 m+28 h+28, with the +100 offset in the destination. */
function readLongitude(
  info: string,
  digits: readonly DestinationDigit[],
  ambiguityDigits: number,
): number | Malformed {
  let degrees = info.charCodeAt(1) - 28 + (digits[4]?.bit === 1 ? 100 : 0);
  if (degrees >= 180 && degrees <= 189) degrees -= 80;
  else if (degrees >= 190 && degrees <= 199) degrees -= 190;
  const minutes = (info.charCodeAt(2) - 28) % 60;
  const hundredths = info.charCodeAt(3) - 28;
  if (degrees < 0 || degrees > 179 || minutes < 0 || hundredths < 0 || hundredths > 99)
    return malformed('the Mic-E longitude is out of range', 1);
  const text = String(minutes).padStart(2, '0') + String(hundredths).padStart(2, '0');
  const value = degrees + minutesOf(text, ambiguityDigits) / 60;
  return digits[5]?.bit === 1 ? -value : value;
}

/** "Speed and course": SP+28, DC+28, SE+28 with the wraps of the reference. */
function movement(info: string): Partial<AprsReport> {
  const [sp, dc, se] = [4, 5, 6].map((i) => info.charCodeAt(i) - 28) as [number, number, number];
  if (sp < 0 || dc < 0 || se < 0) return {};
  const knots = (sp * 10 + Math.floor(dc / 10)) % 800;
  const course = ((dc % 10) * 100 + se) % 400;
  return { speedMps: knots * MPS_PER_KNOT, ...(course === 0 ? {} : { courseDeg: course % 360 }) };
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

/** `"4T}` = altitude in metres above −10 km, base 91 ("Altitude"). */
function remainder(text: string): Partial<AprsReport> {
  const match = /^(.?)([!-{]{3})\}/s.exec(text);
  const facts = match ? { altitudeM: fromBase91(match[2] as string) - 10_000 } : {};
  const comment = (match ? (match[1] as string) + text.slice(match[0].length) : text).trim();
  return comment === '' ? facts : { ...facts, comment };
}
