import Papa from 'papaparse';
import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { parsePlace } from '../geo/place.js';
import { readFix, thinnedOut } from '../tracks/track.js';
import { readGpx } from '../tracks/gpx.js';
import type { Position } from '../geo/position.js';
import type { Leg, Watched } from './watched.js';

/** One line of the list as people write it: minutes, metres, a place in any form, the leg by its name. */
export interface WatchLine {
  readonly call: string;
  readonly label: string;
  readonly group: string;
  readonly contact: string;
  readonly everyMin: number;
  readonly stillMin?: number;
  readonly leg: string;
  readonly offM: number;
  readonly finish: string;
  readonly finishRadiusM: number;
  /** ms since 1970 UTC. */
  readonly dueAtMs?: number;
}

export const USUAL_EVERY_MIN = 10;
export const USUAL_OFF_M = 500;
export const USUAL_FINISH_RADIUS_M = 300;
export const MOST_WATCHED = 500;
/** Drawn and reckoned with each packet. */
const MOST_LEG_POINTS = 2000;
const LONGEST_FILE = 20_000_000;
const MINUTE_MS = 60_000;

/** The line with its leg and its places, for the desk. A finish that is no place is none. */
export function watchedOf(line: WatchLine, legs: readonly Leg[]): Watched {
  const leg = legs.find(({ name }) => name === line.leg);
  const place = line.finish === '' ? undefined : parsePlace(line.finish);
  return {
    call: line.call,
    label: line.label,
    group: line.group,
    contact: line.contact,
    everyMs: line.everyMin * MINUTE_MS,
    offM: line.offM,
    ...(line.stillMin === undefined ? {} : { stillMs: line.stillMin * MINUTE_MS }),
    ...(leg ? { leg } : {}),
    ...(place && !isMalformed(place)
      ? { finish: { place, radiusM: line.finishRadiusM, ...dueOf(line.dueAtMs) } }
      : {}),
  };
}

const dueOf = (dueAtMs: number | undefined): { dueAtMs?: number } =>
  dueAtMs === undefined ? {} : { dueAtMs };

/** The columns of the file, in the order in which they are written. */
const COLUMNS = [
  'call',
  'label',
  'group',
  'contact',
  'every_min',
  'still_min',
  'leg',
  'off_m',
  'finish',
  'finish_radius_m',
  'due',
] as const;
type Column = (typeof COLUMNS)[number];

/** The list as CSV (RFC 4180) with a line of names; times as ISO 8601 UTC. */
export function formatWatchList(lines: readonly WatchLine[]): string {
  const rows = lines.map((line): Record<Column, string | number> => ({
    call: line.call,
    label: line.label,
    group: line.group,
    contact: line.contact,
    every_min: line.everyMin,
    still_min: line.stillMin ?? '',
    leg: line.leg,
    off_m: line.offM,
    finish: line.finish,
    finish_radius_m: line.finishRadiusM,
    due: line.dueAtMs === undefined ? '' : new Date(line.dueAtMs).toISOString(),
  }));
  return `${Papa.unparse({ fields: [...COLUMNS], data: rows }, { newline: '\r\n' })}\r\n`;
}

/**
 * A list from CSV: comma, semicolon or tab, columns in any order, only `call` is needed. Refused whole, with the first line that
 * is wrong, so that nobody is left out unnoticed. dayMs: the day that a time alone (`15:30`, UTC) belongs to.
 */
export function readWatchList(text: string, dayMs: number): readonly WatchLine[] | Malformed {
  const { data, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim().toLowerCase(),
  });
  if (!meta.fields?.includes('call'))
    return malformed(
      `the first line has to name the columns, of which ‘call’ is needed: ${COLUMNS.join(', ')}`,
    );
  if (data.length > MOST_WATCHED) return malformed(`it has more than ${MOST_WATCHED} lines`);
  const lines: WatchLine[] = [];
  for (const [i, row] of data.entries()) {
    const line = lineOf(row, dayMs);
    if (isMalformed(line)) return malformed(`line ${i + 2}: ${line.malformed}`);
    if (lines.some(({ call }) => call === line.call))
      return malformed(`line ${i + 2}: ${line.call} is there twice`);
    lines.push(line);
  }
  return lines.length === 0 ? malformed('it has no line but the names') : lines;
}

function lineOf(row: Record<string, string>, dayMs: number): WatchLine | Malformed {
  const cell = (column: Column): string => (row[column] ?? '').trim();
  const call = cell('call').toUpperCase();
  if (call === '') return malformed('the call is missing');
  const everyMin = numberOf(cell('every_min'), 'every_min', USUAL_EVERY_MIN);
  const offM = numberOf(cell('off_m'), 'off_m', USUAL_OFF_M);
  const finishRadiusM = numberOf(cell('finish_radius_m'), 'finish_radius_m', USUAL_FINISH_RADIUS_M);
  const stillMin = cell('still_min') === '' ? undefined : numberOf(cell('still_min'), 'still_min', 0);
  const dueAtMs = cell('due') === '' ? undefined : timeOf(cell('due'), dayMs);
  const finish = cell('finish');
  const place = finish === '' ? undefined : parsePlace(finish);
  for (const value of [everyMin, offM, finishRadiusM, stillMin, dueAtMs, place])
    if (value !== undefined && isMalformed(value)) return value;
  return {
    call,
    label: cell('label'),
    group: cell('group'),
    contact: cell('contact'),
    everyMin: everyMin as number,
    ...(stillMin === undefined ? {} : { stillMin: stillMin as number }),
    leg: cell('leg'),
    offM: offM as number,
    finish,
    finishRadiusM: finishRadiusM as number,
    ...dueOf(dueAtMs as number | undefined),
  };
}

function numberOf(text: string, column: Column, usual: number): number | Malformed {
  if (text === '') return usual;
  const value = Number(text.replace(',', '.'));
  return Number.isFinite(value) && value > 0 ? value : malformed(`${column} ‘${text}’ is no number above 0`);
}

function timeOf(text: string, dayMs: number): number | Malformed {
  const clock = /^(\d{1,2}):(\d{2})$/.exec(text);
  const day = new Date(dayMs).toISOString().slice(0, 10);
  const atMs = Date.parse(clock ? `${day}T${(clock[1] ?? '').padStart(2, '0')}:${clock[2]}:00Z` : text);
  return Number.isFinite(atMs)
    ? atMs
    : malformed(`due ‘${text}’ is no time: write 15:30 (UTC) or an ISO 8601 time`);
}

type Json = Readonly<Record<string, unknown>>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Legs from a file: the lines of GeoJSON (RFC 7946) as routes and the outer rings of its polygons as areas, each by its `name`; of
 * GPX the one track or route. fallback: the name of what has none, usually the file's.
 */
export function readLegs(text: string, fallback: string): readonly Leg[] | Malformed {
  if (text.length > LONGEST_FILE) return malformed('it is too long for a leg: thin it out, or cut it');
  if (text.trimStart().startsWith('<')) {
    const track = readGpx(text);
    return isMalformed(track) ? track : [legOf(track.name || fallback, 'route', track.points)];
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return malformed(`it is neither GPX nor GeoJSON: ${(error as Error).message}`);
  }
  const legs: Leg[] = [];
  for (const feature of featuresOf(value)) {
    const name = isObject(feature.properties) ? feature.properties.name : undefined;
    const geometry = isObject(feature.geometry) ? feature.geometry : feature;
    for (const { kind, positions } of shapesOf(geometry)) {
      const points = placesOf(positions);
      if (isMalformed(points)) return points;
      const base = typeof name === 'string' && name !== '' ? name : fallback;
      const twins = legs.filter((leg) => leg.name === base || leg.name.startsWith(`${base} (`)).length;
      legs.push(legOf(twins === 0 ? base : `${base} (${twins + 1})`, kind, points));
    }
  }
  return legs.length === 0 ? malformed('it holds no line and no area') : legs;
}

const legOf = (name: string, kind: Leg['kind'], points: readonly Position[]): Leg => ({
  name: name.slice(0, 60),
  kind,
  points: thinnedOut(points, MOST_LEG_POINTS).map(({ latitudeDeg, longitudeDeg }) => ({
    latitudeDeg,
    longitudeDeg,
  })),
});

function featuresOf(value: unknown): readonly Json[] {
  if (!isObject(value)) return [];
  if (value.type === 'FeatureCollection' && Array.isArray(value.features))
    return value.features.filter(isObject);
  return [value];
}

function shapesOf({ type, coordinates }: Json): { kind: Leg['kind']; positions: unknown }[] {
  const parts = Array.isArray(coordinates) ? (coordinates as unknown[]) : [];
  if (type === 'LineString') return [{ kind: 'route', positions: coordinates }];
  if (type === 'MultiLineString') return parts.map((positions) => ({ kind: 'route', positions }));
  if (type === 'Polygon') return [{ kind: 'area', positions: openRing(parts[0]) }];
  if (type !== 'MultiPolygon') return [];
  return parts.map((part) => ({
    kind: 'area',
    positions: openRing(Array.isArray(part) ? part[0] : undefined),
  }));
}

/** A ring ends where it begins (RFC 7946, 3.1.6). */
const openRing = (ring: unknown): unknown => (Array.isArray(ring) ? ring.slice(0, -1) : ring);

function placesOf(positions: unknown): readonly Position[] | Malformed {
  if (!Array.isArray(positions) || positions.length === 0) return malformed('a line has no coordinates');
  const places: Position[] = [];
  for (const position of positions as unknown[]) {
    const [longitude, latitude] = Array.isArray(position) ? (position as unknown[]) : [];
    const place =
      typeof longitude === 'number' && typeof latitude === 'number'
        ? readFix(latitude, longitude)
        : undefined;
    if (!place) return malformed(`${JSON.stringify(position)?.slice(0, 60)} is no place on the earth`);
    places.push(place);
  }
  return places;
}
