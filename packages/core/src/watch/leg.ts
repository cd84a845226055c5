import { booleanPointInPolygon } from '@turf/boolean-point-in-polygon';
import { lineString, polygon } from '@turf/helpers';
import { pointToLineDistance } from '@turf/point-to-line-distance';
import type { Position } from '../geo/position.js';
import type { Leg } from './watched.js';

const lonLat = ({ latitudeDeg, longitudeDeg }: Position): [number, number] => [longitudeDeg, latitudeDeg];

/**
 * How far off the leg a place is, metres: from the nearest point of a route, or from the edge of an area that it is outside of;
 * 0 within an area. On a sphere, which is good to half a percent.
 */
export function metresOff({ kind, points }: Leg, place: Position): number {
  const corners = points.map(lonLat);
  const [first] = corners;
  if (!first) return 0;
  const line = kind === 'area' ? [...corners, first] : corners.length > 1 ? corners : [first, first];
  if (kind === 'area' && corners.length > 2 && booleanPointInPolygon(lonLat(place), polygon([line])))
    return 0;
  return pointToLineDistance(lonLat(place), lineString(line), { units: 'meters' });
}
