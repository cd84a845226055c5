import { malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import { METRES_PER_FOOT, METRES_PER_MILE, MPS_PER_KNOT } from '../units/units.js';
import type { AprsSymbol } from './report.js';

/** 1.0.1, "Compressed position report data formats": table, YYYY, XXXX, code, c s, T: 13 characters. */
export const COMPRESSED_LENGTH = 13;
const FORM = /^([/\\A-Za-j])([!-{]{4})([!-{]{4})([!-~])([ -~])([!-~ ])([!-~ ])/;
const LATITUDE_SCALE = 380926;
const LONGITUDE_SCALE = 190463;
const NMEA_SOURCE = 0b11000;
const NMEA_GGA = 0b10000;

export interface CompressedPosition extends Position {
  readonly symbol: AprsSymbol;
  readonly courseDeg?: number;
  readonly speedMps?: number;
  readonly altitudeM?: number;
  readonly rangeM?: number;
}

/** Without course, range or altitude: c is a space. Compression type: current fix, other source, software. */
export function encodeCompressedPosition(
  { latitudeDeg, longitudeDeg }: Position,
  symbol: AprsSymbol,
): string {
  const y = base91(Math.round(LATITUDE_SCALE * (90 - latitudeDeg)), 4);
  const x = base91(Math.round(LONGITUDE_SCALE * (180 + longitudeDeg)), 4);
  const table = symbol.table.replace(/[0-9]/, (digit) => String.fromCharCode(digit.charCodeAt(0) + 49));
  return `${table}${y}${x}${symbol.code} sT`;
}

export function base91(value: number, width: number): string {
  let text = '';
  let rest = Math.min(91 ** width - 1, Math.max(0, value));
  for (let i = 0; i < width; i++) {
    text = String.fromCharCode(33 + (rest % 91)) + text;
    rest = Math.floor(rest / 91);
  }
  return text;
}

export function fromBase91(text: string): number {
  return [...text].reduce((value, character) => value * 91 + character.charCodeAt(0) - 33, 0);
}

/** Reads the 13 characters at the start of `text`. */
export function decodeCompressedPosition(text: string): CompressedPosition | Malformed {
  const match = FORM.exec(text);
  if (!match) return malformed('the compressed position has characters outside base 91');
  const [, table, y, x, code, c, s, t] = match as unknown as [
    string,
    string,
    string,
    string,
    string,
    string,
    string,
    string,
  ];
  const latitudeDeg = 90 - fromBase91(y) / LATITUDE_SCALE;
  const longitudeDeg = -180 + fromBase91(x) / LONGITUDE_SCALE;
  if (latitudeDeg < -90 || longitudeDeg > 180)
    return malformed('the compressed position is not a place on earth', 1);
  // Overlay digits are sent as a–j so that the form can be told from a plain position.
  const overlay = table.replace(/[a-j]/, (letter) => String.fromCharCode(letter.charCodeAt(0) - 49));
  return { latitudeDeg, longitudeDeg, symbol: { table: overlay, code }, ...movement(c, s, t) };
}

function movement(c: string, s: string, t: string): Partial<CompressedPosition> {
  if (c === ' ') return {};
  const first = c.charCodeAt(0) - 33;
  const second = s.charCodeAt(0) - 33;
  if (((t.charCodeAt(0) - 33) & NMEA_SOURCE) === NMEA_GGA)
    return { altitudeM: 1.002 ** (first * 91 + second) * METRES_PER_FOOT };
  if (c === '{') return { rangeM: 2 * 1.08 ** second * METRES_PER_MILE };
  if (first > 89) return {};
  return { courseDeg: first * 4, speedMps: (1.08 ** second - 1) * MPS_PER_KNOT };
}
