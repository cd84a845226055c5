import { placeAt, wayTo, type Position } from '../geo/position.js';
import { reachBetween, type RadioEnd } from './margin.js';
import type { Ground } from './profile.js';

export interface SpotsWish {
  /** The set as it is here; its position is where the search begins. */
  readonly here: RadioEnd;
  /** Who should hear it: the best of them counts at each place. */
  readonly ears: readonly RadioEnd[];
  readonly frequencyMHz: number;
  readonly radiusKm: number;
  readonly stepKm: number;
  readonly wanted: number;
}

/** A place nearby, how to get there, whom it reaches (the number of the ear), and what it gains over where one stands. */
export interface BestSpot {
  readonly position: Position;
  readonly groundM: number;
  readonly marginDb: number;
  readonly distanceKm: number;
  readonly bearingDeg: number;
  readonly ear: number;
  readonly gainDb: number;
}

/** Two places named lie at least so far apart: else one hilltop would take all lines of the list. */
const APART_KM = 0.3;

/** "Where nearby would I be heard?": the best places within the radius that gain over this one, best first. */
export function bestSpots(wish: SpotsWish, ground: Ground): BestSpot[] {
  const { here, ears, radiusKm, stepKm, wanted } = wish;
  if (ears.length === 0) return [];
  const base = bestMargin(wish, here.position, ground).marginDb;
  const spots = placesWithin(here.position, radiusKm, stepKm)
    .map((position) => ({ position, groundM: ground(position), ...bestMargin(wish, position, ground) }))
    // Who looks for a place to stand does not stand in the water.
    .filter(({ groundM, marginDb }) => groundM > 0 && marginDb > base)
    .sort((a, b) => b.marginDb - a.marginDb);
  const chosen: typeof spots = [];
  for (const spot of spots) {
    if (chosen.length === wanted) break;
    if (chosen.every(({ position }) => wayTo(position, spot.position).distanceKm >= APART_KM))
      chosen.push(spot);
  }
  return chosen.map((spot) => ({
    ...spot,
    ...wayTo(here.position, spot.position),
    gainDb: spot.marginDb - base,
  }));
}

function bestMargin(
  { here, ears, frequencyMHz }: SpotsWish,
  position: Position,
  ground: Ground,
): { ear: number; marginDb: number } {
  let best = { ear: -1, marginDb: -Infinity };
  ears.forEach((ear, i) => {
    const { marginDb } = reachBetween({ ...here, position }, ear, ground, frequencyMHz).there;
    if (marginDb > best.marginDb) best = { ear: i, marginDb };
  });
  return best;
}

/** Rings round a place, as many places on each as keep the step. */
function placesWithin(centre: Position, radiusKm: number, stepKm: number): Position[] {
  const rings = Math.floor(radiusKm / stepKm);
  return Array.from({ length: rings }, (_, i) => {
    const km = (i + 1) * stepKm;
    const count = Math.max(6, Math.round((2 * Math.PI * km) / stepKm));
    return Array.from({ length: count }, (_, k) => placeAt(centre, km, (360 * k) / count));
  }).flat();
}
