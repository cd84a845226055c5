import { placesAlong, wayTo, type Position } from '../geo/position.js';

/** The effective earth of a normal atmosphere: 4/3 of 6371 km. */
export const EFFECTIVE_EARTH_KM = 8495;

/**
 * The ground between two antennas. distancesKm: from the first end, rising, 0 and the whole way included;
 * heightsM: of the ground there, above the sea; the antennas stand their heights above its ends.
 */
export interface Profile {
  readonly distancesKm: readonly number[];
  readonly heightsM: readonly number[];
  readonly antenna1M: number;
  readonly antenna2M: number;
}

/** What tells the ground's height above the sea, m. */
export type Ground = (position: Position) => number;

/** Cuts the ground along the geodesic, a sample about every stepKm, at least three. */
export function cutProfile(
  ground: Ground,
  from: Position,
  to: Position,
  { antenna1M, antenna2M, stepKm = 0.2 }: { antenna1M: number; antenna2M: number; stepKm?: number },
): Profile {
  const { distanceKm } = wayTo(from, to);
  const steps = Math.max(2, Math.ceil(distanceKm / stepKm));
  const distancesKm = Array.from({ length: steps + 1 }, (_, i) => (distanceKm * i) / steps);
  const heightsM = placesAlong(from, to, distancesKm).map(ground);
  return { distancesKm, heightsM, antenna1M, antenna2M };
}

/** A profile as diffraction sees it: both ends above the sea, and each inner point with the earth's bulge. */
export interface Edges {
  readonly lengthKm: number;
  readonly end1M: number;
  readonly end2M: number;
  readonly inner: readonly { readonly km: number; readonly heightM: number }[];
}

export function edgesOf({ distancesKm, heightsM, antenna1M, antenna2M }: Profile): Edges {
  const last = distancesKm.length - 1;
  if (last < 1 || heightsM.length !== distancesKm.length)
    throw new RangeError('a profile needs as many heights as distances, two at least');
  const lengthKm = distancesKm[last] as number;
  const inner = [];
  for (let i = 1; i < last; i++) {
    const km = distancesKm[i] as number;
    inner.push({ km, heightM: (heightsM[i] as number) + bulgeM(km, lengthKm) });
  }
  return {
    lengthKm,
    end1M: (heightsM[0] as number) + antenna1M,
    end2M: (heightsM[last] as number) + antenna2M,
    inner,
  };
}

/** How far the earth stands above the chord, m: 500 · d1 · d2 / radius (ITU-R P.526). */
export function bulgeM(d1Km: number, lengthKm: number): number {
  return (500 * d1Km * (lengthKm - d1Km)) / EFFECTIVE_EARTH_KM;
}
