import { malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from './position.js';

/** Maidenhead locator (IARU Region 1 VHF handbook): fields of 20°×10°, squares of 10ths, subsquares of 24ths, again. */
const DIVISIONS = [18, 10, 24, 10, 24] as const;
const LENGTHS = [2, 4, 6, 8, 10];

/** length: 2, 4, 6, 8 or 10 characters. Subsquares are written small, as in IG40hj. */
export function formatLocator({ latitudeDeg, longitudeDeg }: Position, length = 6): string | Malformed {
  if (!LENGTHS.includes(length)) return malformed('a locator has 2, 4, 6, 8 or 10 characters');
  if (!(Math.abs(latitudeDeg) <= 90 && Math.abs(longitudeDeg) <= 180))
    return malformed('not a place on earth');
  // The pole and the antimeridian belong to the last field, not to one beyond it.
  let east = Math.min((longitudeDeg + 180) / 360, 1 - 1e-12);
  let north = Math.min((latitudeDeg + 90) / 180, 1 - 1e-12);
  let text = '';
  for (const [pair, parts] of DIVISIONS.slice(0, length / 2).entries()) {
    // The small addend undoes binary rounding at exact borders (1e-9 of a cell is below a millimetre).
    const column = Math.min(parts - 1, Math.floor(east * parts + 1e-9));
    const row = Math.min(parts - 1, Math.floor(north * parts + 1e-9));
    east = Math.max(0, east * parts - column);
    north = Math.max(0, north * parts - row);
    text += character(column, pair) + character(row, pair);
  }
  return text;
}

function character(value: number, pair: number): string {
  if (pair % 2 === 1) return String(value);
  return String.fromCharCode((pair === 0 ? 65 : 97) + value);
}

/** The square and the up to eight round it, as locators of the same length; the poles have none beyond them. */
export function neighbouringSquares(locator: string): string[] | Malformed {
  const centre = parseLocator(locator);
  if ('malformed' in centre) return centre;
  const size = DIVISIONS.slice(0, locator.trim().length / 2).reduce((rest, parts) => rest / parts, 180);
  const squares: string[] = [];
  for (const north of [1, 0, -1])
    for (const east of [-1, 0, 1]) {
      const latitudeDeg = centre.latitudeDeg + north * size;
      const longitudeDeg = ((centre.longitudeDeg + east * 2 * size + 540) % 360) - 180;
      const name = formatLocator({ latitudeDeg, longitudeDeg }, locator.trim().length);
      if (typeof name === 'string') squares.push(name);
    }
  return squares;
}

/** The centre of a locator's square. */
export function parseLocator(text: string): Position | Malformed {
  const raised = text.trim().toUpperCase();
  if (!LENGTHS.includes(raised.length)) return malformed('a locator has 2, 4, 6, 8 or 10 characters');
  let east = 0;
  let north = 0;
  let size = 1;
  for (const [pair, parts] of DIVISIONS.slice(0, raised.length / 2).entries()) {
    const column = valueOf(raised.charCodeAt(2 * pair), pair);
    const row = valueOf(raised.charCodeAt(2 * pair + 1), pair);
    if (!(column >= 0 && column < parts)) return malformed('no such letter or digit in a locator', 2 * pair);
    if (!(row >= 0 && row < parts)) return malformed('no such letter or digit in a locator', 2 * pair + 1);
    size /= parts;
    east += column * size;
    north += row * size;
  }
  return { latitudeDeg: (north + size / 2) * 180 - 90, longitudeDeg: (east + size / 2) * 360 - 180 };
}

function valueOf(code: number, pair: number): number {
  return pair % 2 === 1 ? code - 48 : code - 65;
}
