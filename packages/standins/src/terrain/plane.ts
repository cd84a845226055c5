import type { Position } from '@mistpeak/core/geo/position';

/** The island on a flat sheet: km east and north of its middle. Good to some metres over its 46 km. */
export interface Spot {
  readonly x: number;
  readonly y: number;
}

export const MIDDLE: Position = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
/** Lengths of a degree at 29.6° S on WGS-84. */
const KM_NORTH = 110.856;
const KM_EAST = 96.86;

export function toSpot({ latitudeDeg, longitudeDeg }: Position): Spot {
  return {
    x: (longitudeDeg - MIDDLE.longitudeDeg) * KM_EAST,
    y: (latitudeDeg - MIDDLE.latitudeDeg) * KM_NORTH,
  };
}

export function toPosition({ x, y }: Spot): Position {
  return { latitudeDeg: MIDDLE.latitudeDeg + y / KM_NORTH, longitudeDeg: MIDDLE.longitudeDeg + x / KM_EAST };
}

export function between(a: Spot, b: Spot): number {
  return Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);
}

/** How far a spot lies from a line of spots, km, and how far along its parts that is (2.5: in the middle of the third). */
export function toLine(spot: Spot, line: readonly Spot[]): { km: number; along: number } {
  let nearest = Infinity;
  let along = 0;
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = [line[i] as Spot, line[i + 1] as Spot];
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const share = ((spot.x - a.x) * dx + (spot.y - a.y) * dy) / (dx * dx + dy * dy || 1);
    const t = share < 0 ? 0 : share > 1 ? 1 : share;
    const [offX, offY] = [spot.x - a.x - t * dx, spot.y - a.y - t * dy];
    const squared = offX * offX + offY * offY;
    if (squared >= nearest) continue;
    nearest = squared;
    along = i + t;
  }
  return { km: Math.sqrt(nearest), along };
}
