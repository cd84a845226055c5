import { VOID, type ElevationTile } from './elevation-tile.js';
import { hillshade } from './hillshade.js';

const SIZE = 241;
const HALF = 120;
const tile = (heightAt: (row: number, column: number) => number): ElevationTile => ({
  southDeg: -30,
  westDeg: -12,
  size: SIZE,
  heightsM: Int16Array.from({ length: SIZE * SIZE }, (_, i) =>
    heightAt(Math.floor(i / SIZE) - HALF, (i % SIZE) - HALF),
  ),
});
const middle = (one: ElevationTile): number => hillshade(one)[HALF * SIZE + HALF] as number;

it('what is level, and what is not known, is between light and shade', () => {
  expect([...hillshade(tile(() => 100))].every((shade) => shade === 128)).toBe(true);
  expect(middle(tile(() => VOID))).toBe(128);
});

it('a slope that looks to the north-west is lit, one that looks away is in shade', () => {
  // It falls towards the north-west, where the light is: rows grow to the south, columns to the east.
  expect(middle(tile((row, column) => (row + column) * 100))).toBeLessThan(108);
  expect(middle(tile((row, column) => -(row + column) * 100))).toBeGreaterThan(148);
});

it('one across the light is nearly as level ground', () => {
  expect(Math.abs(middle(tile((row, column) => (row - column) * 100)) - 128)).toBeLessThan(12);
});

it('the steeper, the stronger', () => {
  const falls = (metres: number): number => middle(tile((row, column) => -(row + column) * metres));
  expect(falls(100)).toBeGreaterThan(falls(20));
});
