import type { Position } from '../geo/position.js';

/** One point of a track. atMs: since 1970, where the file tells. */
export interface TrackFix extends Position {
  readonly atMs?: number;
  readonly altitudeM?: number;
}

export interface TrackFile {
  readonly name: string;
  readonly points: readonly TrackFix[];
}

/** A day at ten points a second; a file that holds more is refused, so that no page runs out of memory. */
export const MOST_POINTS = 1_000_000;

export const TOO_MANY = `it has more than ${MOST_POINTS} points: thin it out, or cut it`;

/** At most so many of them, evenly chosen, both ends among them. */
export function thinnedOut<Point>(points: readonly Point[], most: number): readonly Point[] {
  if (points.length <= most) return points;
  return Array.from(
    { length: most },
    (_, i) => points[Math.round((i * (points.length - 1)) / (most - 1))] as Point,
  );
}

/** A place on the earth, or nothing. */
export function readFix(latitude: unknown, longitude: unknown): Position | undefined {
  const [latitudeDeg, longitudeDeg] = [Number(latitude), Number(longitude)];
  const isPlace = Math.abs(latitudeDeg) <= 90 && Math.abs(longitudeDeg) <= 180;
  return isPlace && latitude !== '' && longitude !== '' ? { latitudeDeg, longitudeDeg } : undefined;
}

/** ISO 8601 as GPX and GeoJSON have it. */
export function readTime(text: unknown): { atMs?: number } {
  const atMs = typeof text === 'string' ? Date.parse(text) : NaN;
  return Number.isFinite(atMs) ? { atMs } : {};
}
