import type { ElevationTile } from './elevation-tile.js';
import { VOID } from './elevation-tile.js';

/** Light from the north-west, at 45° (common practice of relief maps, no source). */
const AZIMUTH_DEG = 315;
const ALTITUDE_DEG = 45;
const METRES_PER_DEGREE = 111_320;

/** One octet for each height of the tile, row by row from the north: 0 full light, 255 full shade; the sea and what is not known are 128. */
export function hillshade({ size, heightsM, southDeg }: ElevationTile): Uint8Array {
  const shade = new Uint8Array(size * size);
  const northM = METRES_PER_DEGREE / (size - 1);
  const eastM = northM * Math.cos(((southDeg + 0.5) * Math.PI) / 180);
  const [sin, cos] = [Math.sin((ALTITUDE_DEG * Math.PI) / 180), Math.cos((ALTITUDE_DEG * Math.PI) / 180)];
  const azimuth = (AZIMUTH_DEG * Math.PI) / 180;
  const at = (row: number, column: number): number => {
    const clamped = Math.min(size - 1, Math.max(0, row)) * size + Math.min(size - 1, Math.max(0, column));
    const height = heightsM[clamped] as number;
    return height === VOID ? 0 : height;
  };
  for (let row = 0; row < size; row++)
    for (let column = 0; column < size; column++) {
      // Slopes to the east and to the north, between the neighbours on either side.
      const east = (at(row, column + 1) - at(row, column - 1)) / (2 * eastM);
      const north = (at(row - 1, column) - at(row + 1, column)) / (2 * northM);
      if (east === 0 && north === 0) {
        shade[row * size + column] = 128;
        continue;
      }
      // The light falls on the normal (−east, −north, 1).
      const lit =
        (-east * Math.sin(azimuth) * cos - north * Math.cos(azimuth) * cos + sin) /
        Math.hypot(east, north, 1);
      shade[row * size + column] = Math.round(255 * (1 - Math.max(0, Math.min(1, (lit - sin) / 2 + 0.5))));
    }
  return shade;
}
