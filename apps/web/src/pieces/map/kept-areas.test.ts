import { PMTiles, tileIdToZxy, type Source } from 'pmtiles';
import { packTiles } from '@mistpeak/core/pmtiles/archive';
import type { MapView } from '@mistpeak/contract/maps';
import { countTiles, cutOut, mapsToDraw, type Extent, type KeptArea } from './kept-areas';

const MAP: MapView = {
  name: 'hollin.pmtiles',
  tiles: 'vector',
  minZoom: 2,
  maxZoom: 6,
  west: -12,
  south: -30,
  east: -11,
  north: -29,
  octets: 1,
};
/** Numbers of scales 2 to 6: (4^z − 1)/3 stand before scale z (specification, "Tile ID"). */
const FIRST = 5;
const LAST = (4 ** 7 - 1) / 3 - 1;

const archive = (octets: Uint8Array): PMTiles =>
  new PMTiles({
    getKey: () => `${octets.length}`,
    getBytes: (offset, length) => Promise.resolve({ data: octets.slice(offset, offset + length).buffer }),
  } satisfies Source);
const bigArchive = (): PMTiles => {
  const tiles = Array.from({ length: LAST - FIRST + 1 }, (_, i) => ({
    id: FIRST + i,
    octets: Uint8Array.of(...tileIdToZxy(FIRST + i), 7),
  }));
  return archive(Uint8Array.from(packTiles(MAP, tiles).flatMap((piece) => [...piece])));
};

it('what is cut out is read by the library as an archive of its own: what the area touches, and nothing else', async () => {
  const extent: Extent = [-11.7, -29.9, -11.1, -29.4];
  const seen: number[] = [];
  const file = await cutOut(bigArchive(), MAP, extent, 5, (tiles) => seen.push(tiles) > 0);
  const cut = archive(new Uint8Array(await (file as Blob).arrayBuffer()));
  const { minZoom, maxZoom, minLon } = await cut.getHeader();
  expect([minZoom, maxZoom, minLon]).toEqual([2, 5, -11.7]);
  const found: string[] = [];
  for (let z = 2; z <= 6; z++)
    for (let x = 0; x < 2 ** z; x++)
      for (let y = 0; y < 2 ** z; y++) {
        const tile = await cut.getZxy(z, x, y);
        if (tile) found.push([...new Uint8Array(tile.data)].join(' '));
      }
  // By the published formula of web tiles: column = (lon + 180)/360·2^z; 168.3/360·32 = 14.96 and 168.9/360·32 = 15.01 at scale 5.
  expect(found).toEqual(['2 1 2 7', '3 3 4 7', '4 7 9 7', '5 14 18 7', '5 15 18 7']);
  expect(seen).toEqual([0, 1, 2, 3, 4]);
  expect(countTiles(extent, 2, 5)).toBe(5);
});

it('is stopped when it is told so', async () => {
  expect(await cutOut(bigArchive(), MAP, [-30, -30, 0, 0], 6, (tiles) => tiles < 3)).toBeUndefined();
});

it('counts the whole earth, its poles too', () => {
  expect(countTiles([-180, -90, 180, 90], 0, 3)).toBe(1 + 4 + 16 + 64);
  expect(countTiles([0, 0, 0, 0], 0, 3)).toBe(4);
});

it('the server’s file while it is there, else what is kept; what the server has no more, always', () => {
  const area: KeptArea = { ...MAP, atMs: 0, file: new Blob() };
  const old = { ...area, name: 'old.pmtiles' };
  const other = { ...MAP, name: 'other.pmtiles' };
  expect(mapsToDraw([MAP, other], [area, old], true)).toEqual([MAP, other, old]);
  expect(mapsToDraw([MAP, other], [area, old], false)).toEqual([area, old]);
});
