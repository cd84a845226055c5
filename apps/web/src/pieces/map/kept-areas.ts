import { del, get, set } from 'idb-keyval';
import { FileSource, PMTiles, zxyToTileId } from 'pmtiles';
import { create } from 'zustand';
import { packTiles, type Tile } from '@mistpeak/core/pmtiles/archive';
import type { MapView } from '@mistpeak/contract/maps';

/** A piece of a map file that lies in this browser, a tile archive of its own. */
export interface KeptArea extends MapView {
  readonly atMs: number;
  readonly file: Blob;
}

/** West, south, east, north, in degrees. */
export type Extent = readonly [number, number, number, number];

const KEY = 'kept-areas';
/** More would take a phone's storage and an hour. */
export const MOST_TILES = 20_000;
/** Web Mercator ends here. */
const MOST_LATITUDE = 85.0511;

/** One for each map file, the newest. */
export const useKeptAreas = create<{ readonly areas: readonly KeptArea[] }>(() => ({ areas: [] }));

/** What was kept before; a browser without storage has nothing. */
export async function readKeptAreas(): Promise<void> {
  const areas = await get<readonly KeptArea[]>(KEY).catch(() => undefined);
  if (areas) useKeptAreas.setState({ areas });
}

async function store(areas: readonly KeptArea[]): Promise<void> {
  await (areas.length > 0 ? set(KEY, areas) : del(KEY));
  useKeptAreas.setState({ areas });
}

export const forgetArea = (name: string): Promise<void> =>
  store(useKeptAreas.getState().areas.filter((area) => area.name !== name));

/** From the scale that shows all of the earth to the deepest, the columns and rows that the extent touches. */
function rowsOf(
  [west, south, east, north]: Extent,
  zoom: number,
): { columns: readonly [number, number]; rows: readonly [number, number] } {
  const across = 2 ** zoom;
  const column = (degrees: number): number => within(Math.floor(((degrees + 180) / 360) * across), across);
  const row = (degrees: number): number => {
    const latitude = (Math.max(-MOST_LATITUDE, Math.min(MOST_LATITUDE, degrees)) * Math.PI) / 180;
    return within(Math.floor(((1 - Math.asinh(Math.tan(latitude)) / Math.PI) / 2) * across), across);
  };
  return { columns: [column(west), column(east)], rows: [row(north), row(south)] };
}

const within = (value: number, across: number): number => Math.max(0, Math.min(across - 1, value));

/** How many tiles an area is, from the map's first scale to the deepest. */
export function countTiles(extent: Extent, minZoom: number, deepest: number): number {
  let count = 0;
  for (let zoom = minZoom; zoom <= deepest; zoom++) {
    const { columns, rows } = rowsOf(extent, zoom);
    count += (columns[1] - columns[0] + 1) * (rows[1] - rows[0] + 1);
  }
  return count;
}

/**
 * Takes the tiles of an area out of an archive and puts them together as one of their own, in order of their numbers.
 * told: how many are there; what it returns false to stops it, and undefined comes back.
 */
export async function cutOut(
  from: Pick<PMTiles, 'getZxy'>,
  map: MapView,
  extent: Extent,
  deepest: number,
  told: (tiles: number) => boolean,
): Promise<Blob | undefined> {
  const tiles: Tile[] = [];
  let seen = 0;
  for (let zoom = map.minZoom; zoom <= deepest; zoom++) {
    const { columns, rows } = rowsOf(extent, zoom);
    for (let x = columns[0]; x <= columns[1]; x++)
      for (let y = rows[0]; y <= rows[1]; y++) {
        if (!told(seen++)) return undefined;
        const tile = await from.getZxy(zoom, x, y);
        if (tile) tiles.push({ id: zxyToTileId(zoom, x, y), octets: new Uint8Array(tile.data) });
      }
  }
  tiles.sort((a, b) => a.id - b.id);
  const [west, south, east, north] = extent;
  const { tiles: kind, minZoom } = map;
  const about = { tiles: kind, minZoom, maxZoom: deepest, west, south, east, north };
  return new Blob(packTiles(about, tiles) as BlobPart[]);
}

/** Fetches it from the server and keeps it; false: it was stopped. Throws where a tile does not come or no room is left. */
export async function keepArea(
  map: MapView,
  extent: Extent,
  deepest: number,
  told: (tiles: number) => boolean,
): Promise<boolean> {
  const file = await cutOut(new PMTiles(tilesUrl(map.name)), map, extent, deepest, told);
  if (!file) return false;
  const [west, south, east, north] = extent;
  const { name, tiles, minZoom } = map;
  const area = { name, tiles, minZoom, maxZoom: deepest, west, south, east, north, octets: file.size };
  const others = useKeptAreas.getState().areas.filter((one) => one.name !== name);
  await store([...others, { ...area, atMs: Date.now(), file }]);
  // Else the browser may clear it when room is short.
  void navigator.storage?.persist?.();
  return true;
}

export const tilesUrl = (name: string): string => `${location.origin}/map/tiles/${encodeURIComponent(name)}`;

export const sourceOf = ({ name, atMs, file }: KeptArea): FileSource =>
  new FileSource(new File([file], `${name} ${atMs}`));

/** Which file each map is read from: the server's while it is there, else what was kept here. */
export function mapsToDraw(
  maps: readonly MapView[],
  areas: readonly KeptArea[],
  isServerThere: boolean,
): readonly (MapView | KeptArea)[] {
  const served = isServerThere ? maps : [];
  const kept = areas.filter(({ name }) => !served.some((map) => map.name === name));
  return [...served, ...kept];
}
