import { isMalformed } from '../bits/malformed.js';
import {
  decodeElevationTile,
  encodeElevationTile,
  heightAt,
  tileName,
  VOID,
  type ElevationTile,
} from './elevation-tile.js';

const SIZE = 1201;
const tile: ElevationTile = {
  southDeg: -30,
  westDeg: -12,
  size: SIZE,
  heightsM: new Int16Array(SIZE * SIZE),
};
tile.heightsM.set([100, 200, VOID]);
tile.heightsM.set([300, -5], SIZE);

const at = (rowsDown: number, columnsEast: number): number =>
  heightAt(tile, { latitudeDeg: -29 - rowsDown / 1200, longitudeDeg: -12 + columnsEast / 1200 });

describe('an elevation tile', () => {
  // From the published form: the name is the south-west corner, the first height the north-west one, high octet first.
  it('is written as published', () => {
    expect(tileName(tile)).toBe('S30W012.hgt');
    expect(tileName({ southDeg: 47, westDeg: 8 })).toBe('N47E008.hgt');
    const octets = encodeElevationTile(tile);
    expect(octets).toHaveLength(SIZE * SIZE * 2);
    expect([...octets.subarray(0, 6)]).toEqual([0, 100, 0, 200, 0x80, 0]);
  });

  it('comes back as it was', () =>
    expect(decodeElevationTile('s30w012.HGT', encodeElevationTile(tile))).toEqual(tile));

  it('has heights between its points; nothing where it was not measured or beyond its edge', () => {
    expect([at(0, 0), at(0, 1), at(1, 0)].map(Math.round)).toEqual([100, 200, 300]);
    expect(at(0.5, 0.5)).toBeCloseTo((100 + 200 + 300 - 5) / 4, 5);
    expect(at(0, 2)).toBe(0);
    expect([at(-0.1, 5), at(5, -0.1), at(1200.1, 0), at(NaN, 0)]).toEqual([0, 0, 0, 0]);
    expect(at(1200, 1200)).toBe(0);
  });

  it.each([
    ['island.hgt', SIZE * SIZE * 2],
    ['S30W012.hgt', 100],
    ['S30W012.hgt', 0],
    ['N99E000.hgt', SIZE * SIZE * 2],
  ])('%s of %i octets is refused', (name, length) =>
    expect(isMalformed(decodeElevationTile(name, new Uint8Array(length)))).toBe(true),
  );
});

it('the last square of a tile is read to its very corner', () => {
  const size = 1201;
  // Heights that rise to the east and to the south, so that each square differs.
  const heightsM = Int16Array.from({ length: size * size }, (_, i) => (i % size) + 2 * Math.floor(i / size));
  const tile = { southDeg: -30, westDeg: -12, size, heightsM };
  expect(heightAt(tile, { latitudeDeg: -30, longitudeDeg: -11 })).toBeCloseTo(3600, 6);
  // Only the last column and the last row stand out.
  const edges = Int16Array.from({ length: size * size }, (_, i) =>
    i % size === size - 1 || i >= size * (size - 1) ? 300 : 0,
  );
  const third = 1 / 1200 / 3;
  const cliff = { ...tile, heightsM: edges };
  expect(heightAt(cliff, { latitudeDeg: -29.5, longitudeDeg: -11 - third })).toBeCloseTo(200, 6);
  expect(heightAt(cliff, { latitudeDeg: -30 + third, longitudeDeg: -11.5 })).toBeCloseTo(200, 6);
  // A third of the last square from the corner.
  const step = 1 / 1200 / 3;
  expect(heightAt(tile, { latitudeDeg: -30 + step, longitudeDeg: -11 - step })).toBeCloseTo(3599, 6);
});
