import { contourLines } from './contours.js';
import { VOID, type ElevationTile } from './elevation-tile.js';

const SIZE = 1201;
const tile = (heightAt: (row: number, column: number) => number): ElevationTile => ({
  southDeg: -30,
  westDeg: -12,
  size: SIZE,
  heightsM: Int16Array.from({ length: SIZE * SIZE }, (_, i) => heightAt(Math.floor(i / SIZE), i % SIZE)),
});

it('round a cone: circles of the right radius about its top, one for each height', () => {
  // 1000 m high in the middle, falling 2 m a cell.
  const cone = tile((row, column) => Math.round(1000 - 2 * Math.hypot(row - 600, column - 600)));
  const lines = contourLines(cone, 250);
  expect(lines.map(({ metres }) => metres)).toEqual([250, 500, 750, 1000].slice(0, lines.length));
  const half = lines.find(({ metres }) => metres === 500);
  for (const [longitude, latitude] of half?.points ?? []) {
    // 500 m below the top is 250 cells away, of 1/1200 degree each.
    expect(Math.hypot(longitude + 11.5, latitude + 29.5) * 1200).toBeGreaterThan(246);
    expect(Math.hypot(longitude + 11.5, latitude + 29.5) * 1200).toBeLessThan(254);
  }
});

it('the sea, and what is not known, have none', () => {
  expect(
    contourLines(
      tile(() => 0),
      50,
    ),
  ).toEqual([]);
  expect(
    contourLines(
      tile(() => VOID),
      50,
    ),
  ).toEqual([]);
});
