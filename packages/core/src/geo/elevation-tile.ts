import { malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from './position.js';

/**
 * A one-degree elevation tile as the Shuttle Radar Topography Mission published them (.hgt): size × size
 * 16-bit heights in m, high octet first, rows from north to south, columns from west to east, edges included.
 */
export interface ElevationTile {
  readonly southDeg: number;
  readonly westDeg: number;
  readonly size: number;
  /** Row by row from the north-west corner; VOID where nothing was measured. */
  readonly heightsM: Int16Array;
}

export const VOID = -32_768;
/** Three arc seconds, and one. */
const SIZES = [1201, 3601];

/** `S30W012.hgt`: the south-west corner. */
export function tileName({ southDeg, westDeg }: Pick<ElevationTile, 'southDeg' | 'westDeg'>): string {
  const part = (degrees: number, positive: string, negative: string, width: number): string =>
    (degrees < 0 ? negative : positive) + String(Math.abs(degrees)).padStart(width, '0');
  return `${part(southDeg, 'N', 'S', 2)}${part(westDeg, 'E', 'W', 3)}.hgt`;
}

export function encodeElevationTile({ size, heightsM }: ElevationTile): Uint8Array {
  if (!SIZES.includes(size) || heightsM.length !== size * size)
    throw new RangeError(`a tile has 1201 or 3601 rows of as many heights`);
  const octets = new Uint8Array(heightsM.length * 2);
  const view = new DataView(octets.buffer);
  heightsM.forEach((height, i) => view.setInt16(i * 2, height));
  return octets;
}

/** name: the file's, which alone tells where the tile lies. */
export function decodeElevationTile(name: string, octets: Uint8Array): ElevationTile | Malformed {
  const match = /^([NS])(\d{2})([EW])(\d{3})\.hgt$/i.exec(name);
  const size = SIZES.find((one) => one * one * 2 === octets.length);
  if (!match) return malformed('the name does not tell the tile’s corner (like S30W012.hgt)');
  if (!size) return malformed('neither 1201 × 1201 nor 3601 × 3601 heights of two octets', octets.length);
  const southDeg = Number(match[2]) * (match[1]?.toUpperCase() === 'S' ? -1 : 1);
  const westDeg = Number(match[4]) * (match[3]?.toUpperCase() === 'W' ? -1 : 1);
  if (Math.abs(southDeg) > 90 || Math.abs(westDeg) > 180) return malformed('the corner is not on the earth');
  const view = new DataView(octets.buffer, octets.byteOffset, octets.byteLength);
  const heightsM = Int16Array.from({ length: size * size }, (_, i) => view.getInt16(i * 2));
  return { southDeg, westDeg, size, heightsM };
}

/** The ground between the four nearest heights, m; 0 outside the tile and where nothing was measured. */
export function heightAt({ southDeg, westDeg, size, heightsM }: ElevationTile, position: Position): number {
  const steps = size - 1;
  const column = (position.longitudeDeg - westDeg) * steps;
  const row = (southDeg + 1 - position.latitudeDeg) * steps;
  if (!(column >= 0 && column <= steps && row >= 0 && row <= steps)) return 0;
  const [left, top] = [Math.min(Math.floor(column), steps - 1), Math.min(Math.floor(row), steps - 1)];
  const [east, south] = [column - left, row - top];
  const at = (r: number, c: number): number => {
    const height = heightsM[r * size + c] as number;
    return height === VOID ? 0 : height;
  };
  const north = at(top, left) * (1 - east) + at(top, left + 1) * east;
  const below = at(top + 1, left) * (1 - east) + at(top + 1, left + 1) * east;
  return north * (1 - south) + below * south;
}
