import { placesAlong, wayTo, type Position } from '../geo/position.js';

/** The effective earth of a normal atmosphere: 4/3 of 6371 km. */
export const EFFECTIVE_EARTH_KM = 8495;

/**
 * The ground between two antennas. distancesKm: from the first end, rising, 0 and the whole way included;
 * heightsM: of the ground there, above the sea; the antennas stand their heights above its ends.
 */
export interface Profile {
  readonly distancesKm: ArrayLike<number>;
  readonly heightsM: ArrayLike<number>;
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

/** How many samples a profile has. Throws RangeError where it is none. */
export function samplesOf({ distancesKm, heightsM }: Profile): number {
  const samples = distancesKm.length;
  if (samples < 2 || heightsM.length !== samples)
    throw new RangeError('a profile needs as many heights as distances, two at least');
  return samples;
}

/** Both antennas above the sea, and the way between them. */
export function endsOf(profile: Profile): { lengthKm: number; end1M: number; end2M: number } {
  const last = samplesOf(profile) - 1;
  const { distancesKm, heightsM, antenna1M, antenna2M } = profile;
  return {
    lengthKm: distancesKm[last] as number,
    end1M: (heightsM[0] as number) + antenna1M,
    end2M: (heightsM[last] as number) + antenna2M,
  };
}

/** How far the earth stands above the chord, m: 500 · d1 · d2 / radius (ITU-R P.526). */
export function bulgeM(d1Km: number, lengthKm: number): number {
  return (500 * d1Km * (lengthKm - d1Km)) / EFFECTIVE_EARTH_KM;
}
