import { contours } from 'd3-contour';
import { VOID, type ElevationTile } from './elevation-tile.js';

/** A line of one height: longitude and latitude of its points; closed where it does not leave the tile. */
export interface ContourLine {
  readonly metres: number;
  readonly points: readonly (readonly [number, number])[];
}

/** A side of so many heights is enough for lines; more would be drawn for minutes. */
const FINEST = 401;

/** Lines of equal height every so many metres above the sea (marching squares, by its own library). */
export function contourLines(tile: ElevationTile, everyM: number): ContourLine[] {
  const { size, heightsM, southDeg, westDeg } = tile;
  const step = Math.max(1, Math.ceil((size - 1) / (FINEST - 1)));
  const side = Math.floor((size - 1) / step) + 1;
  const values = Array.from({ length: side * side }, (_, i) => {
    const height = heightsM[Math.floor(i / side) * step * size + (i % side) * step] as number;
    return height === VOID ? 0 : height;
  });
  const highest = values.reduce((most, height) => Math.max(most, height), 0);
  const heights = Array.from({ length: Math.floor(highest / everyM) }, (_, i) => (i + 1) * everyM);
  const degrees = step / (size - 1);
  return contours()
    .size([side, side])
    .thresholds(heights)(values)
    .flatMap(({ value, coordinates }) =>
      coordinates.flat().map((ring) => ({
        metres: value,
        // A height stands in the middle of its cell there, half a cell from the corner.
        points: ring.map(([x = 0, y = 0]): [number, number] => [
          westDeg + (x - 0.5) * degrees,
          southDeg + 1 - (y - 0.5) * degrees,
        ]),
      })),
    );
}
