import { encodeElevationTile, decodeElevationTile, tileName, type ElevationTile } from './elevation-tile.js';
import { Terrain, tilesBetween } from './terrain.js';

const tile = (southDeg: number, westDeg: number, heightM: number): ElevationTile => ({
  southDeg,
  westDeg,
  size: 1201,
  heightsM: new Int16Array(1201 * 1201).fill(heightM),
});

describe('terrain of several tiles', () => {
  const terrain = new Terrain([tile(-30, -12, 100), tile(-30, -11, 200), tile(0, 0, 300)]);

  it.each([
    [-29.5, -11.5, 100],
    [-29.5, -10.5, 200],
    [0.5, 0.5, 300],
    [0, 0, 300],
  ])('tells %d, %d from the tile that holds it: %i m', (latitudeDeg, longitudeDeg, heightM) => {
    expect(terrain.heightM({ latitudeDeg, longitudeDeg })).toBe(heightM);
    expect(terrain.covers({ latitudeDeg, longitudeDeg })).toBe(true);
  });

  it('is the sea elsewhere, and says so', () => {
    const elsewhere = { latitudeDeg: -0.5, longitudeDeg: 0.5 };
    expect(terrain.heightM(elsewhere)).toBe(0);
    expect(terrain.covers(elsewhere)).toBe(false);
  });

  it('keeps the tile of the file that was written', () => {
    const written = tile(-1, 179, 7);
    const read = decodeElevationTile(tileName(written), encodeElevationTile(written)) as ElevationTile;
    expect(new Terrain([read]).heightM({ latitudeDeg: -0.2, longitudeDeg: 179.3 })).toBe(7);
  });
});

it('names the tiles within a way of a place', () => {
  const near = { latitudeDeg: -29.99, longitudeDeg: -11.5 };
  expect(tilesBetween([near], 0.5)).toEqual(['S30W012.hgt']);
  expect(tilesBetween([near], 5)).toEqual(['S31W012.hgt', 'S30W012.hgt']);
  expect(tilesBetween([{ latitudeDeg: 60.5, longitudeDeg: 9.5 }], 40)).toEqual([
    'N60E008.hgt',
    'N60E009.hgt',
    'N60E010.hgt',
  ]);
});

it('names those in between too: a way of 200 km crosses a tile that holds neither end', () => {
  const ends = [
    { latitudeDeg: 50.5, longitudeDeg: 7.5 },
    { latitudeDeg: 50.5, longitudeDeg: 9.5 },
  ];
  expect(tilesBetween(ends)).toEqual(['N50E007.hgt', 'N50E008.hgt', 'N50E009.hgt']);
  expect(tilesBetween([])).toEqual([]);
});
