import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { MOST_POINTS, readFix, readTime, TOO_MANY, type TrackFile, type TrackFix } from './track.js';

type Json = Readonly<Record<string, unknown>>;

/**
 * GeoJSON (RFC 7946): the positions of its lines in order, or else of its points with their `time`. Positions are longitude,
 * latitude and perhaps altitude (RFC 7946, 3.1.1).
 */
export function readGeoJson(text: string): TrackFile | Malformed {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return malformed(`it is no JSON: ${(error as Error).message}`);
  }
  const features = featuresOf(value);
  if (!features) return malformed('it is no GeoJSON: a Feature, a FeatureCollection or a geometry is needed');
  const lines: TrackFix[] = [];
  const points: TrackFix[] = [];
  let name = '';
  for (const { geometry, properties } of features) {
    if (!isObject(geometry)) continue;
    if (isObject(properties) && typeof properties.name === 'string') name ||= properties.name;
    const trouble = collect(geometry, isObject(properties) ? properties : {}, lines, points);
    if (trouble) return trouble;
  }
  const found = lines.length > 0 ? lines : points;
  return found.length === 0 ? malformed('it holds no line and no points') : { name, points: found };
}

function collect(
  geometry: Json,
  properties: Json,
  lines: TrackFix[],
  points: TrackFix[],
): Malformed | undefined {
  const { type, coordinates } = geometry;
  const parts: unknown[] =
    type === 'LineString'
      ? [coordinates]
      : type === 'MultiLineString' && Array.isArray(coordinates)
        ? coordinates
        : [];
  for (const part of parts) {
    if (!Array.isArray(part)) return malformed('a line has no coordinates');
    for (const position of part) {
      const fix = fixOf(position, {});
      if (isMalformed(fix)) return fix;
      lines.push(fix);
      if (lines.length > MOST_POINTS) return malformed(TOO_MANY);
    }
  }
  if (type !== 'Point') return undefined;
  const fix = fixOf(coordinates, properties);
  if (isMalformed(fix)) return fix;
  points.push(fix);
  return points.length > MOST_POINTS ? malformed(TOO_MANY) : undefined;
}

function fixOf(position: unknown, properties: Json): TrackFix | Malformed {
  const [longitude, latitude, altitude] = Array.isArray(position) ? (position as unknown[]) : [];
  const place =
    typeof longitude === 'number' && typeof latitude === 'number' ? readFix(latitude, longitude) : undefined;
  if (!place) return malformed(`${JSON.stringify(position)?.slice(0, 60)} is no place on the earth`);
  return {
    ...place,
    ...(typeof altitude === 'number' ? { altitudeM: altitude } : {}),
    ...readTime(properties.time),
  };
}

function featuresOf(value: unknown): readonly Json[] | undefined {
  if (!isObject(value)) return undefined;
  if (value.type === 'FeatureCollection' && Array.isArray(value.features))
    return value.features.filter(isObject);
  if (value.type === 'Feature') return [value];
  return typeof value.type === 'string' && 'coordinates' in value ? [{ geometry: value }] : undefined;
}

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** One Feature with a line; times as `coordTimes`, which is common practice, no source. */
export const formatGeoJson = (track: TrackFile): string => `${JSON.stringify(featureOf(track))}\n`;

/** A FeatureCollection of lines; a track of one point is a point. */
export const formatGeoJsonTracks = (tracks: readonly TrackFile[]): string =>
  `${JSON.stringify({ type: 'FeatureCollection', features: tracks.map(featureOf) })}\n`;

function featureOf({ name, points }: TrackFile): object {
  const times = points.map(({ atMs }) => (atMs === undefined ? null : new Date(atMs).toISOString()));
  const places = points.map(({ latitudeDeg, longitudeDeg, altitudeM }) => [
    longitudeDeg,
    latitudeDeg,
    ...(altitudeM === undefined ? [] : [altitudeM]),
  ]);
  return {
    type: 'Feature',
    properties: { name, ...(times.some((time) => time !== null) ? { coordTimes: times } : {}) },
    // A line has two positions at least (RFC 7946, 3.1.4).
    geometry:
      places.length === 1
        ? { type: 'Point', coordinates: places[0] }
        : { type: 'LineString', coordinates: places },
  };
}
