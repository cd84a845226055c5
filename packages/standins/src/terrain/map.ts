import { contours } from 'd3-contour';
import type { Feature, FeatureCollection, Position as Point } from 'geojson';
import type { Position } from '@mistpeak/core/geo/position';
import type { Island } from './island.js';
import { SUMMITS, VILLAGES } from './places.js';
import type { Road } from './roads.js';
import { positionsOf } from './roads.js';

/** The corner of the tile that holds the island, in its columns and rows. */
const WINDOW = { left: 390, top: 520, columns: 670, rows: 400 };
const EVERY_M = 100;
const HIGHEST_M = 1200;

/** The island as a map (GeoJSON, RFC 7946): coast and contours as areas, roads as lines, villages and summits as points. */
export function islandMap(island: Island, roads: readonly Road[]): FeatureCollection {
  return {
    type: 'FeatureCollection',
    features: [...areas(island), ...roads.map(lineOf), ...points()],
  };
}

function areas({ tile }: Island): Feature[] {
  const { left, top, columns, rows } = WINDOW;
  const values = Array.from({ length: columns * rows }, (_, i) => {
    const row = top + Math.floor(i / columns);
    return tile.heightsM[row * tile.size + left + (i % columns)] as number;
  });
  const levels = Array.from({ length: HIGHEST_M / EVERY_M }, (_, i) => (i + 1) * EVERY_M);
  const steps = tile.size - 1;
  // A contour's coordinates count from the outer edge of the first cell: half a cell before its middle.
  const place = ([x = 0, y = 0]: readonly number[]): Point => [
    rounded(tile.westDeg + (left + x - 0.5) / steps),
    rounded(tile.southDeg + 1 - (top + y - 0.5) / steps),
  ];
  return contours()
    .size([columns, rows])
    .thresholds([0.5, ...levels])(values)
    .map(({ value, coordinates }) => ({
      type: 'Feature',
      properties: value < 1 ? { kind: 'land' } : { kind: 'height', metres: value },
      geometry: {
        type: 'MultiPolygon',
        coordinates: coordinates.map((polygon) =>
          polygon.filter((ring) => ring.length > 12).map((ring) => ring.map(place)),
        ),
      },
    }));
}

function lineOf({ name, kind, way }: Road): Feature {
  return {
    type: 'Feature',
    properties: { kind, name },
    geometry: { type: 'LineString', coordinates: positionsOf(way).map(point) },
  };
}

function points(): Feature[] {
  const feature = (kind: string, name: string, at: Position, more = {}): Feature => ({
    type: 'Feature',
    properties: { kind, name, ...more },
    geometry: { type: 'Point', coordinates: point(at) },
  });
  return [
    ...VILLAGES.map(({ name, at }) => feature('village', name, at)),
    ...SUMMITS.map(({ name, at, heightM }) => feature('summit', name, at, { metres: heightM })),
  ];
}

const point = ({ latitudeDeg, longitudeDeg }: Position): Point => [
  rounded(longitudeDeg),
  rounded(latitudeDeg),
];
/** A metre is enough. */
const rounded = (degrees: number): number => Math.round(degrees * 1e5) / 1e5;
