import { placeAt, wayTo, type Position } from './position.js';

/** Something that goes straight on. courseDeg from north, speedMps over the ground. */
export interface Moving {
  readonly position: Position;
  readonly courseDeg: number;
  readonly speedMps: number;
}

export interface Approach {
  /** How fast the distance changes now, m/s; negative: they come nearer. */
  readonly rangeRateMps: number;
  /** When they are nearest, s from now; 0 when they part already, or stand to one another. */
  readonly nearestInS: number;
  readonly nearestKm: number;
}

/** Where it is after some seconds, straight on along the geodesic. */
export function deadReckoned({ position, courseDeg, speedMps }: Moving, afterS: number): Position {
  return placeAt(position, (speedMps * afterS) / 1000, courseDeg);
}

/**
 * When two that go straight on are nearest to one another, in the plane that touches the earth at the first: for tens of
 * kilometres good to a percent. The distance is |d + v·t|, least at t = −d·v / v².
 */
export function closestApproach(me: Moving, other: Moving): Approach {
  const { distanceKm, bearingDeg } = wayTo(me.position, other.position);
  const d = along(distanceKm * 1000, bearingDeg);
  const [mine, theirs] = [along(me.speedMps, me.courseDeg), along(other.speedMps, other.courseDeg)];
  const v = { x: theirs.x - mine.x, y: theirs.y - mine.y };
  const dv = d.x * v.x + d.y * v.y;
  const v2 = v.x * v.x + v.y * v.y;
  const metres = distanceKm * 1000;
  const rangeRateMps = metres === 0 ? Math.sqrt(v2) : dv / metres;
  const nearestInS = v2 === 0 ? 0 : Math.max(0, -dv / v2);
  const nearestKm = Math.hypot(d.x + v.x * nearestInS, d.y + v.y * nearestInS) / 1000;
  return { rangeRateMps, nearestInS, nearestKm };
}

/** East and north of a length along a bearing. */
function along(length: number, bearingDeg: number): { x: number; y: number } {
  const angle = (bearingDeg * Math.PI) / 180;
  return { x: length * Math.sin(angle), y: length * Math.cos(angle) };
}
