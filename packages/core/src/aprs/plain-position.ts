import { malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import type { AprsSymbol } from './report.js';

/** 1.0.1, "APRS position formats": DDMM.hhN, symbol table, DDDMM.hhW, symbol code: 19 characters. */
export const PLAIN_LENGTH = 19;
const FORM =
  /^(\d{2})([0-5 ][\d ])\.([\d ]{2})([NSns])([/\\0-9A-Z])(\d{3})([0-5 ][\d ])\.([\d ]{2})([EWew])([!-~])/;
/** What is added for digits left out, so that the point lies in the middle of the box: ½ of the last digit known. */
const HALF_MINUTES = [0, 0.05, 0.5, 5, 30] as const;

export interface PlainPosition extends Position {
  readonly ambiguityDigits: number;
  readonly symbol: AprsSymbol;
}

/**
 * Positive north and east; each coordinate is rounded to a hundredth of a minute, or cut where finer digits follow
 * (DAO) or digits are left out (the point lies in the box that the rest names).
 */
export function encodePlainPosition(
  { latitudeDeg, longitudeDeg }: Position,
  symbol: AprsSymbol,
  ambiguityDigits = 0,
  cut = false,
): string {
  const isCut = cut || ambiguityDigits > 0;
  const latitude =
    degreesAndMinutes(latitudeDeg, 2, ambiguityDigits, isCut) + (isBelowZero(latitudeDeg) ? 'S' : 'N');
  const longitude =
    degreesAndMinutes(longitudeDeg, 3, ambiguityDigits, isCut) + (isBelowZero(longitudeDeg) ? 'W' : 'E');
  return latitude + symbol.table + longitude + symbol.code;
}

/** 0° south is a place's sign too, and comes back from a frame as −0. */
export function isBelowZero(degrees: number): boolean {
  return degrees < 0 || Object.is(degrees, -0);
}

/** Hundredths of a minute. The addend undoes binary rounding: a tenth of a millimetre. */
export function hundredthsOf(degrees: number, cut: boolean): number {
  const exact = Math.abs(degrees) * 6000;
  return cut ? Math.floor(exact + 1e-5) : Math.round(exact);
}

function degreesAndMinutes(degrees: number, width: number, ambiguityDigits: number, cut: boolean): string {
  const hundredths = hundredthsOf(degrees, cut);
  const text =
    String(Math.floor(hundredths / 6000)).padStart(width, '0') +
    ((hundredths % 6000) / 100).toFixed(2).padStart(5, '0');
  let blank = ambiguityDigits;
  return [...text]
    .reverse()
    .map((character) => (character !== '.' && blank-- > 0 ? ' ' : character))
    .reverse()
    .join('');
}

/** What is added for digits left out, in minutes. */
export function middleOfBox(ambiguityDigits: number): number {
  return HALF_MINUTES[ambiguityDigits] ?? 0;
}

/** Reads the 19 characters at the start of `text`. */
export function decodePlainPosition(text: string): PlainPosition | Malformed {
  const match = FORM.exec(text);
  if (!match) return malformed('the position is not of the form DDMM.hhN/DDDMM.hhW');
  const [, latDegrees, latWhole, latPart, latHalf, table, lonDegrees, lonWhole, lonPart, lonHalf, code] =
    match as unknown as string[];
  const ambiguityDigits = blanks(`${latWhole}${latPart}`);
  if (ambiguityDigits < 0) return malformed('the blanks in the latitude are not at its end', 2);
  const latitude = inDegrees(latDegrees as string, `${latWhole}${latPart}`, ambiguityDigits);
  const longitude = inDegrees(lonDegrees as string, `${lonWhole}${lonPart}`, ambiguityDigits);
  if (!(latitude <= 90)) return malformed('the latitude is beyond 90°');
  if (!(longitude <= 180)) return malformed('the longitude is beyond 180°', 9);
  return {
    latitudeDeg: /S/i.test(latHalf as string) ? -latitude : latitude,
    longitudeDeg: /W/i.test(lonHalf as string) ? -longitude : longitude,
    ambiguityDigits,
    symbol: { table: table as string, code: code as string },
  };
}

/** How many digits are blank at the end of MMhh; −1 when a blank stands before a digit. */
function blanks(minutes: string): number {
  return /^\d* *$/.test(minutes) ? minutes.length - minutes.trimEnd().length : -1;
}

/** The latitude's ambiguity rules the longitude too (1.0.1, "Position ambiguity"). */
function inDegrees(degrees: string, minutes: string, ambiguityDigits: number): number {
  const known = minutes
    .slice(0, 4 - ambiguityDigits)
    .replaceAll(' ', '0')
    .padEnd(4, '0');
  return Number(degrees) + (Number(known) / 100 + middleOfBox(ambiguityDigits)) / 60;
}

/** The box that an ambiguous position names: half its height and width, degrees (1.0.1, "Position ambiguity"). */
export function halfBoxDeg(ambiguityDigits: number): number {
  return middleOfBox(ambiguityDigits) / 60;
}
