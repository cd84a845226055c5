import { isMalformed } from '../bits/malformed.js';
import { parseLocator } from './locator.js';
import { locatorSquares } from './locator-grid.js';

const ISLAND = { west: -11.65, south: -29.75, east: -11.15, north: -29.45 };

it('the finest that are not too many', () => {
  expect(locatorSquares(ISLAND, 100).map(({ name }) => name.length)[0]).toBe(6);
  expect(locatorSquares(ISLAND, 20).map(({ name }) => name)).toEqual(['IG40']);
  expect(locatorSquares({ west: -180, south: -90, east: 180, north: 90 }, 400)).toHaveLength(18 * 18);
  expect(locatorSquares({ west: -180, south: -90, east: 180, north: 90 }, 10)).toEqual([]);
});

it('cover the bounds, each named by what lies in it', () => {
  const squares = locatorSquares(ISLAND, 200);
  expect(Math.min(...squares.map(({ west }) => west))).toBeLessThanOrEqual(ISLAND.west);
  expect(Math.max(...squares.map(({ east }) => east))).toBeGreaterThanOrEqual(ISLAND.east);
  expect(Math.min(...squares.map(({ south }) => south))).toBeLessThanOrEqual(ISLAND.south);
  expect(Math.max(...squares.map(({ north }) => north))).toBeGreaterThanOrEqual(ISLAND.north);
  for (const { name, west, east, south, north } of squares) {
    const middle = parseLocator(name);
    if (isMalformed(middle)) throw new Error(name);
    expect(middle.longitudeDeg).toBeCloseTo((west + east) / 2, 6);
    expect(middle.latitudeDeg).toBeCloseTo((south + north) / 2, 6);
  }
});

it('across the antimeridian and at the pole the names go on', () => {
  expect(locatorSquares({ west: 179, south: 0.2, east: 181, north: 0.8 }, 6).map(({ name }) => name)).toEqual(
    ['RJ90', 'AJ00'],
  );
  expect(locatorSquares({ west: 0.5, south: 89.5, east: 1, north: 95 }, 30).map(({ name }) => name)).toEqual([
    'JR09',
  ]);
});
