import type { Position } from '../geo/position.js';
import { base91, fromBase91 } from './base-91.js';
import { isBelowZero } from './plain-position.js';
import type { AprsReport } from './report.js';
import { joinWords } from './text.js';

/**
 * 1.2 addendum, "DAO": `!DAO!` in a comment. D tells the datum; a capital: A and O are the next decimal digit of the
 * minutes (thousandths); a small letter: A and O are base 91 parts of a hundredth of a minute.
 */
const FORM = /!([A-Za-z])(?:(\d)(\d)|([!-{])([!-{])| {2})!/;
const MINUTE_DEG = 1 / 60;

type Dao = NonNullable<AprsReport['dao']>;

/** The position in the report is refined; without one nothing is taken. */
export function takeDao(comment: string, into: AprsReport): string {
  const match = FORM.exec(comment);
  if (!match || into.latitudeDeg === undefined || into.longitudeDeg === undefined) return comment;
  const letter = match[1] as string;
  const isCapital = letter === letter.toUpperCase();
  // A capital with characters that are no digits says nothing that was published.
  if (isCapital && match[4] !== undefined) return comment;
  const latitude = match[2] ?? match[4];
  const longitude = match[3] ?? match[5];
  const datum = letter.toUpperCase();
  if (latitude === undefined || longitude === undefined) into.dao = { datum, form: 'none' };
  else {
    const finer = (character: string): number =>
      (isCapital ? Number(character) / 1000 : fromBase91(character) / 9100) * MINUTE_DEG;
    into.dao = { datum, form: isCapital ? 'digits' : 'base-91' };
    into.latitudeDeg = awayFromZero(into.latitudeDeg, finer(latitude));
    into.longitudeDeg = awayFromZero(into.longitudeDeg, finer(longitude));
  }
  return joinWords(comment.slice(0, match.index), comment.slice(match.index + match[0].length));
}

function awayFromZero(value: number, by: number): number {
  return isBelowZero(value) ? value - by : value + by;
}

/**
 * `!DAO!` for a position whose coordinates were cut (not rounded) to hundredths of a minute before.
 * Throws RangeError when the datum is no letter.
 */
export function encodeDao({ latitudeDeg, longitudeDeg }: Position, { datum, form }: Dao): string {
  if (!/^[A-Z]$/.test(datum)) throw new RangeError('a datum is one capital letter');
  if (form === 'none') return `!${datum}  !`;
  // The addend undoes binary rounding: a tenth of a millimetre.
  const part = (degrees: number): number => (Math.abs(degrees) * 6000 + 1e-5) % 1;
  if (form === 'digits')
    return `!${datum}${Math.floor(part(latitudeDeg) * 10)}${Math.floor(part(longitudeDeg) * 10)}!`;
  const letter = (degrees: number): string => base91(Math.floor(part(degrees) * 91), 1);
  return `!${datum.toLowerCase()}${letter(latitudeDeg)}${letter(longitudeDeg)}!`;
}
