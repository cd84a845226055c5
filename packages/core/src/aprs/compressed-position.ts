import { malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import { METRES_PER_FOOT, METRES_PER_MILE, MPS_PER_KNOT } from '../units/units.js';
import { base91, fromBase91 } from './base-91.js';
import type { AprsReport, AprsSymbol, Compression } from './report.js';

/** 1.0.1, "Compressed position report data formats": table, YYYY, XXXX, code, c s, T: 13 characters. */
export const COMPRESSED_LENGTH = 13;
const FORM = /^([/\\A-Za-j])([!-{]{4})([!-{]{4})([!-~])([ -~])([!-~ ])([!-~ ])/;
const LATITUDE_SCALE = 380926;
const LONGITUDE_SCALE = 190463;

/** "The compression type byte": bit 5 fix, bits 4–3 source, bits 2–0 origin. */
const SOURCES: readonly Compression['source'][] = ['other', 'GLL', 'GGA', 'RMC'];
const CURRENT_FIX = 0x20;
/** Current fix, other source, software. */
export const OWN_COMPRESSION: Compression = { gpsFix: 'current', source: 'other', origin: 2 };

export interface CompressedPosition extends Position {
  readonly symbol: AprsSymbol;
  readonly courseDeg?: number;
  readonly speedMps?: number;
  readonly altitudeM?: number;
  readonly rangeM?: number;
  readonly compression?: Compression;
}

/** Carries what fits: altitude where its source is GGA, else course and speed, else range, else nothing (c is a blank). */
export function encodeCompressedPosition(
  { latitudeDeg, longitudeDeg }: Position,
  symbol: AprsSymbol,
  report: Partial<AprsReport> = {},
): string {
  const y = base91(Math.round(LATITUDE_SCALE * (90 - latitudeDeg)), 4);
  const x = base91(Math.round(LONGITUDE_SCALE * (180 + longitudeDeg)), 4);
  const table = symbol.table.replace(/[0-9]/, (digit) => String.fromCharCode(digit.charCodeAt(0) + 49));
  return `${table}${y}${x}${symbol.code}${extraOf(report)}`;
}

/** Whether the three last characters tell the altitude. */
export function carriesAltitude({ altitudeM, compression }: Partial<AprsReport>): boolean {
  return altitudeM !== undefined && compression?.source === 'GGA';
}

function extraOf(report: Partial<AprsReport>): string {
  const compression = report.compression ?? OWN_COMPRESSION;
  const type = base91(encodeType(compression), 1);
  if (carriesAltitude(report)) {
    const power = Math.log((report.altitudeM as number) / METRES_PER_FOOT) / Math.log(1.002);
    return base91(Math.round(power), 2) + type;
  }
  // With GGA the two characters would be read as an altitude.
  const other = base91(encodeType({ ...compression, source: 'other' }), 1);
  const safe = compression.source === 'GGA' ? other : type;
  if (report.speedMps !== undefined) {
    const course = Math.round((report.courseDeg ?? 0) / 4) % 90;
    const speed = Math.log(report.speedMps / MPS_PER_KNOT + 1) / Math.log(1.08);
    return base91(course, 1) + base91(Math.round(speed), 1) + safe;
  }
  if (report.rangeM !== undefined) {
    const power = Math.log(report.rangeM / METRES_PER_MILE / 2) / Math.log(1.08);
    return `{${base91(Math.round(power), 1)}${safe}`;
  }
  return ` s${type}`;
}

function encodeType({ gpsFix, source, origin }: Compression): number {
  return (gpsFix === 'current' ? CURRENT_FIX : 0) | (SOURCES.indexOf(source) << 3) | (origin & 7);
}

function readType(character: string): Compression | undefined {
  const octet = character.charCodeAt(0) - 33;
  if (octet < 0) return undefined;
  // Six bits have a meaning; base 91 can carry one more, which has none.
  const type = octet & 0x3f;
  return {
    gpsFix: type & CURRENT_FIX ? 'current' : 'old',
    source: SOURCES[(type >> 3) & 3] as Compression['source'],
    origin: type & 7,
  };
}

/** Reads the 13 characters at the start of `text`. */
export function decodeCompressedPosition(text: string): CompressedPosition | Malformed {
  const match = FORM.exec(text) as unknown as string[] | null;
  if (!match) return malformed('the compressed position has characters outside base 91');
  const [, table, y, x, code, c, s, t] = match as [string, ...string[]];
  const latitudeDeg = 90 - fromBase91(y as string) / LATITUDE_SCALE;
  const longitudeDeg = -180 + fromBase91(x as string) / LONGITUDE_SCALE;
  if (latitudeDeg < -90 || longitudeDeg > 180)
    return malformed('the compressed position is not a place on earth', 1);
  // Overlay digits are sent as a–j so that the form can be told from a plain position.
  const overlay = (table as string).replace(/[a-j]/, (letter) =>
    String.fromCharCode(letter.charCodeAt(0) - 49),
  );
  return {
    latitudeDeg,
    longitudeDeg,
    symbol: { table: overlay, code: code as string },
    ...movement(c as string, s as string, readType(t as string)),
  };
}

function movement(c: string, s: string, compression: Compression | undefined): Partial<CompressedPosition> {
  const kind = compression ? { compression } : {};
  if (c === ' ') return kind;
  const first = c.charCodeAt(0) - 33;
  const second = s.charCodeAt(0) - 33;
  if (second < 0) return kind;
  if (compression?.source === 'GGA')
    return { ...kind, altitudeM: 1.002 ** (first * 91 + second) * METRES_PER_FOOT };
  if (c === '{') return { ...kind, rangeM: 2 * 1.08 ** second * METRES_PER_MILE };
  if (first > 89) return kind;
  return { ...kind, courseDeg: first * 4, speedMps: (1.08 ** second - 1) * MPS_PER_KNOT };
}
