import { isMalformed } from '../bits/malformed.js';
import { formatLocator } from './locator.js';

/** Part of the earth, degrees; east may pass 180 where it crosses the antimeridian. */
export interface Bounds {
  readonly west: number;
  readonly south: number;
  readonly east: number;
  readonly north: number;
}

export interface LocatorSquare extends Bounds {
  readonly name: string;
}

/** Degrees of longitude and latitude of fields, squares and subsquares (IARU Region 1 VHF handbook). */
const SIZES = [
  { length: 2, longitude: 20, latitude: 10 },
  { length: 4, longitude: 2, latitude: 1 },
  { length: 6, longitude: 1 / 12, latitude: 1 / 24 },
] as const;

/** The finest locator squares of which no more than `most` lie within the bounds; west to east, south to north. */
export function locatorSquares(bounds: Bounds, most: number): LocatorSquare[] {
  const size = SIZES.findLast(({ longitude, latitude }) => {
    const columns = Math.ceil((bounds.east - bounds.west) / longitude) + 1;
    const rows = Math.ceil((bounds.north - bounds.south) / latitude) + 1;
    return columns * rows <= most;
  });
  if (!size) return [];
  const { length, longitude, latitude } = size;
  const squares: LocatorSquare[] = [];
  const first = Math.floor((bounds.south + 90) / latitude);
  for (let row = Math.max(0, first); row * latitude - 90 < Math.min(90, bounds.north); row++)
    for (
      let column = Math.floor((bounds.west + 180) / longitude);
      column * longitude - 180 < bounds.east;
      column++
    ) {
      const [west, south] = [column * longitude - 180, row * latitude - 90];
      const middle = ((((west + longitude / 2 + 180) % 360) + 360) % 360) - 180;
      const name = formatLocator({ latitudeDeg: south + latitude / 2, longitudeDeg: middle }, length);
      if (!isMalformed(name))
        squares.push({ name, west, south, east: west + longitude, north: south + latitude });
    }
  return squares;
}
