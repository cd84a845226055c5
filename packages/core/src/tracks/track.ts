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
