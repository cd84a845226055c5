import type { MultiPolygon } from 'geojson';
import { wayTo } from '@mistpeak/core/geo/position';
import { islandMap } from './map.js';
import { makeIsland } from './island.js';
import { PLACES, SUMMITS, VILLAGES } from './places.js';
import { between, toPosition, toSpot } from './plane.js';
import { makeRoads } from './roads.js';

const island = makeIsland(1);
const roads = makeRoads(island);
const map = islandMap(island, roads);
const ofKind = (kind: string) => map.features.filter(({ properties }) => properties?.kind === kind);

describe('the island', () => {
  it('is as long and broad as told: about 46 km by 31 km', () => {
    const { tile } = island;
    const columns = new Set<number>();
    const rows = new Set<number>();
    tile.heightsM.forEach((height, i) => {
      if (height <= 0) return;
      columns.add(i % tile.size);
      rows.add(Math.floor(i / tile.size));
    });
    const steps = tile.size - 1;
    expect((columns.size / steps) * 96.86).toBeCloseTo(46, -1);
    expect((rows.size / steps) * 110.86).toBeCloseTo(31, -1);
    expect(island.ground({ latitudeDeg: -29.05, longitudeDeg: -11.05 })).toBe(0);
  });

  it.each(SUMMITS)('$name stands at its height and above all round it', ({ at, heightM }) => {
    expect(Math.abs(island.ground(at) - heightM)).toBeLessThan(8);
    const top = toSpot(at);
    for (let angle = 0; angle < 6.28; angle += 0.3)
      expect(
        island.ground(toPosition({ x: top.x + 0.8 * Math.cos(angle), y: top.y + 0.8 * Math.sin(angle) })),
      ).toBeLessThan(heightM);
  });

  it('Mistpeak is the highest', () =>
    expect(Math.max(...SUMMITS.map(({ at }) => island.ground(at)))).toBe(island.ground(PLACES.mistpeak)));

  it('is another from another seed, and the same from the same', () => {
    const octets = (seed: number): Buffer => Buffer.from(makeIsland(seed).tile.heightsM.buffer);
    const known = Buffer.from(island.tile.heightsM.buffer);
    expect(octets(1).equals(known)).toBe(true);
    expect(octets(2).equals(known)).toBe(false);
  });

  it('the sheet and the globe agree within a hundredth', () => {
    const flat = between(toSpot(PLACES.portVelan), toSpot(PLACES.ostrick));
    expect(flat / wayTo(PLACES.portVelan, PLACES.ostrick).distanceKm).toBeCloseTo(1, 2);
  });
});

describe('roads', () => {
  it('join their places over dry ground, and climb no walls', () => {
    for (const { way } of roads) {
      expect(way.length).toBeGreaterThan(10);
      for (const spot of way.slice(1, -1)) expect(island.ground(toPosition(spot))).toBeGreaterThan(0);
    }
    const harbour = roads.find(({ name }) => name === 'harbour road');
    expect(between(harbour?.way[0] ?? { x: 0, y: 0 }, toSpot(PLACES.portVelan))).toBeLessThan(0.01);
    expect(between(harbour?.way.at(-1) ?? { x: 0, y: 0 }, toSpot(PLACES.ostrick))).toBeLessThan(0.01);
  });
});

describe('the map', () => {
  it('has land, a contour each 100 m, roads, villages and summits', () => {
    expect(ofKind('land')).toHaveLength(1);
    expect(ofKind('height').map(({ properties }) => properties?.metres as number)).toEqual(
      Array.from({ length: 12 }, (_, i) => (i + 1) * 100),
    );
    expect(ofKind('road').length + ofKind('track').length).toBe(roads.length);
    expect([ofKind('village').length, ofKind('summit').length]).toEqual([VILLAGES.length, SUMMITS.length]);
  });

  it('closes its rings and keeps to the island', () => {
    for (const { geometry } of [...ofKind('land'), ...ofKind('height')])
      for (const ring of (geometry as MultiPolygon).coordinates.flat()) {
        expect(ring[0]).toEqual(ring.at(-1));
        for (const [lon = 0, lat = 0] of ring) {
          expect(Math.abs(lon + 11.4)).toBeLessThan(0.3);
          expect(Math.abs(lat + 29.6)).toBeLessThan(0.2);
        }
      }
  });
});
