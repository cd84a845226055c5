import { malformed, type Malformed } from '../bits/malformed.js';

/** PMTiles version 3 specification, "Header": 127 octets, little-endian. */
export const HEADER_OCTETS = 127;
const MAGIC = 'PMTiles';
const VERSION = 3;
const TILE_TYPES = ['unknown', 'vector', 'png', 'jpeg', 'webp', 'avif'] as const;
/** Positions are degrees times this. */
const E7 = 1e7;
const MOST_ZOOM = 30;

export interface PmtilesHeader {
  readonly tiles: (typeof TILE_TYPES)[number];
  readonly minZoom: number;
  readonly maxZoom: number;
  readonly west: number;
  readonly south: number;
  readonly east: number;
  readonly north: number;
  /** Where the parts stand in the file, in octets. */
  readonly parts: Readonly<
    Record<'root' | 'metadata' | 'leaves' | 'data', { offset: number; length: number }>
  >;
}

const PARTS = ['root', 'metadata', 'leaves', 'data'] as const;
const PARTS_AT = 8;

/** What the file holds; fileOctets: how long it is, so that one that was cut off is seen. */
export function decodePmtilesHeader(octets: Uint8Array, fileOctets: number): PmtilesHeader | Malformed {
  if (octets.length < HEADER_OCTETS)
    return malformed('it is shorter than the head of a tile archive', octets.length);
  const magic = String.fromCharCode(...octets.subarray(0, MAGIC.length));
  if (magic !== MAGIC) return malformed('it is no PMTiles file');
  const version = octets[MAGIC.length];
  if (version !== VERSION) return malformed(`it is PMTiles version ${version}: only 3 is read`, MAGIC.length);
  const view = new DataView(octets.buffer, octets.byteOffset, octets.byteLength);
  const number = (at: number): number => Number(view.getBigUint64(at, true));
  const parts = Object.fromEntries(
    PARTS.map((part, i) => [
      part,
      { offset: number(PARTS_AT + 16 * i), length: number(PARTS_AT + 16 * i + 8) },
    ]),
  ) as PmtilesHeader['parts'];
  for (const [part, { offset, length }] of Object.entries(parts))
    if (offset + length > fileOctets) return malformed(`it is cut off: its ${part} ends beyond the file`);
  const degrees = (at: number): number => view.getInt32(at, true) / E7;
  const [minZoom, maxZoom] = [octets[100] as number, octets[101] as number];
  if (minZoom > maxZoom || maxZoom > MOST_ZOOM) return malformed('its scales make no sense', 100);
  const [west, south, east, north] = [degrees(102), degrees(106), degrees(110), degrees(114)];
  if (!(west < east && south < north && west >= -180 && east <= 180 && south >= -90 && north <= 90))
    return malformed('its bounds are no part of the earth', 102);
  return {
    tiles: TILE_TYPES[octets[99] as number] ?? 'unknown',
    minZoom,
    maxZoom,
    west,
    south,
    east,
    north,
    parts,
  };
}

/** Uncompressed directories and tiles, clustered; counts of tiles as given. */
export function encodePmtilesHeader(
  { tiles, minZoom, maxZoom, west, south, east, north, parts }: PmtilesHeader,
  tileCount: number,
): Uint8Array {
  const octets = new Uint8Array(HEADER_OCTETS);
  const view = new DataView(octets.buffer);
  for (let i = 0; i < MAGIC.length; i++) octets[i] = MAGIC.charCodeAt(i);
  octets[MAGIC.length] = VERSION;
  for (const [i, part] of PARTS.entries()) {
    view.setBigUint64(PARTS_AT + 16 * i, BigInt(parts[part].offset), true);
    view.setBigUint64(PARTS_AT + 16 * i + 8, BigInt(parts[part].length), true);
  }
  for (const at of [72, 80, 88]) view.setBigUint64(at, BigInt(tileCount), true);
  octets[96] = 1;
  octets[97] = 1;
  octets[98] = 1;
  octets[99] = TILE_TYPES.indexOf(tiles);
  octets[100] = minZoom;
  octets[101] = maxZoom;
  const place = (at: number, degrees: number): void => view.setInt32(at, Math.round(degrees * E7), true);
  place(102, west);
  place(106, south);
  place(110, east);
  place(114, north);
  octets[118] = minZoom;
  place(119, (west + east) / 2);
  place(123, (south + north) / 2);
  return octets;
}
