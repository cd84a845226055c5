import { createNoise2D } from 'simplex-noise';
import type { ElevationTile } from '@mistpeak/core/geo/elevation-tile';
import { heightAt } from '@mistpeak/core/geo/elevation-tile';
import type { Ground } from '@mistpeak/core/propagation/profile';
import { seededDice } from '@mistpeak/core/network/dice';
import { PLACES, SUMMITS } from './places.js';
import { between, toLine, toPosition, toSpot, type Spot } from './plane.js';

/** Half the length and breadth of the island, km. */
const HALF_LENGTH = 23;
const HALF_BREADTH = 15.5;
const TILE = { southDeg: -30, westDeg: -12, size: 1201 } as const;

/** Lines of high ground, each point with its height in m; the first is the ridge from west to east. */
const RIDGES: readonly { readonly line: readonly (Spot & { m: number })[]; readonly widthKm: number }[] = [
  {
    widthKm: 3.4,
    line: [
      { x: -19, y: 2.5, m: 380 },
      { ...toSpot(PLACES.corvelTop), m: 880 },
      { x: -9, y: 3.2, m: 640 },
      { ...toSpot(PLACES.mistpeak), m: 1160 },
      { x: 2, y: 4.4, m: 760 },
      { x: 7, y: 3.4, m: 520 },
      { ...toSpot(PLACES.anrickHead), m: 640 },
      { x: 18, y: 3.2, m: 330 },
    ],
  },
  // Spurs to both sides of Nether Quill make its valley, and its radio shadow.
  {
    widthKm: 1.9,
    line: [
      { ...toSpot(PLACES.mistpeak), m: 1100 },
      { x: -5.4, y: -1.5, m: 640 },
      { x: -6.4, y: -6, m: 420 },
    ],
  },
  {
    widthKm: 2.1,
    line: [
      { ...toSpot(PLACES.corvelTop), m: 850 },
      { x: -12.6, y: -2, m: 560 },
      { x: -12.2, y: -7.5, m: 380 },
    ],
  },
  {
    widthKm: 1.7,
    line: [
      { x: 2, y: 4.4, m: 700 },
      { x: 4, y: 9, m: 420 },
      { x: 3.5, y: 12, m: 260 },
    ],
  },
];

/** The island from a seed: its ground, and its coast in any direction. */
export interface Island {
  readonly tile: ElevationTile;
  readonly ground: Ground;
  /** The spot at that bearing (radians from east, turning north) at a share of the way to the coast; above 1: at sea. */
  offCoast(angle: number, share: number): Spot;
}

export function makeIsland(seed: number): Island {
  const noise = createNoise2D(seededDice(seed));
  const reach = coastReach(noise);
  const rough = (spot: Spot): number => roughHeight(spot, noise, reach);
  const lifts = SUMMIT_SPOTS.map((spot, i) => ({
    spot,
    byM: (SUMMITS[i] as { heightM: number }).heightM - rough(spot),
  }));
  const tile = sampleTile((spot) => rough(spot) + lifted(spot, lifts));
  return {
    tile,
    ground: (position) => heightAt(tile, position),
    offCoast: (angle, share) => ({
      x: HALF_LENGTH * reach(angle) * share * Math.cos(angle),
      y: HALF_BREADTH * reach(angle) * share * Math.sin(angle),
    }),
  };
}

const SUMMIT_SPOTS = SUMMITS.map(({ at }) => toSpot(at));
/** A summit is lifted to its height within this, km. */
const LIFT_KM = 0.5;

function lifted(spot: Spot, lifts: readonly { spot: Spot; byM: number }[]): number {
  let metres = 0;
  for (const lift of lifts) {
    const km = between(spot, lift.spot);
    if (km < 4 * LIFT_KM) metres += lift.byM * Math.exp(-((km / LIFT_KM) ** 2));
  }
  return metres;
}

type Noise = (x: number, y: number) => number;

/** The coast's distance from the middle by direction, as a share of the ellipse: bays and heads. */
function coastReach(noise: Noise): (angle: number) => number {
  const wave = (angle: number, turns: number, seedRow: number): number =>
    noise(turns * Math.cos(angle) + 40 * seedRow, turns * Math.sin(angle));
  return (angle) => 0.93 + 0.09 * wave(angle, 1.3, 1) + 0.05 * wave(angle, 4, 2) + 0.02 * wave(angle, 13, 3);
}

function roughHeight(spot: Spot, noise: Noise, reach: (angle: number) => number): number {
  const angle = Math.atan2(spot.y / HALF_BREADTH, spot.x / HALF_LENGTH);
  const share = Math.sqrt((spot.x / HALF_LENGTH) ** 2 + (spot.y / HALF_BREADTH) ** 2) / reach(angle);
  if (share >= 1) return 0;
  // Cliffs in the north, beaches in the south.
  const shoreWidth = spot.y > 0 ? 0.05 : 0.16;
  const shore = smooth(Math.min(1, (1 - share) / shoreWidth));
  const plain = 40 + 150 * (1 - share);
  let crest = plain;
  for (const { line, widthKm } of RIDGES) {
    const height = crestHeight(spot, line, widthKm, plain);
    if (height > crest) crest = height;
  }
  let summit = 1;
  for (const top of SUMMIT_SPOTS) summit = Math.min(summit, between(spot, top) / 1.2);
  const hills = 0.5 * noise(spot.x / 5, spot.y / 5) + 0.3 * noise(spot.x / 2.1, spot.y / 2.1 + 90);
  const stones = 0.12 * noise(spot.x / 0.8 + 50, spot.y / 0.8);
  return Math.max(1, shore * (crest + (hills + stones) * summit * (40 + 0.16 * crest)));
}

/** High ground falls away from its line to the plain. */
function crestHeight(
  spot: Spot,
  line: readonly (Spot & { m: number })[],
  widthKm: number,
  plain: number,
): number {
  const { km, along } = toLine(spot, line);
  const [before, after] = [line[Math.floor(along)], line[Math.ceil(along)]] as [{ m: number }, { m: number }];
  const crest = before.m + (after.m - before.m) * (along % 1);
  return plain + Math.max(0, crest - plain) * Math.exp(-((km / widthKm) ** 1.4));
}

const smooth = (t: number): number => t * t * (3 - 2 * t);

function sampleTile(height: (spot: Spot) => number): ElevationTile {
  const { southDeg, westDeg, size } = TILE;
  const heightsM = new Int16Array(size * size);
  const steps = size - 1;
  const corner = toPosition({ x: -HALF_LENGTH * 1.15, y: HALF_BREADTH * 1.15 });
  const other = toPosition({ x: HALF_LENGTH * 1.15, y: -HALF_BREADTH * 1.15 });
  const row = (latitudeDeg: number): number => Math.round((southDeg + 1 - latitudeDeg) * steps);
  const column = (longitudeDeg: number): number => Math.round((longitudeDeg - westDeg) * steps);
  const [top, bottom] = [row(corner.latitudeDeg), row(other.latitudeDeg)];
  const [left, right] = [column(corner.longitudeDeg), column(other.longitudeDeg)];
  for (let r = top; r <= bottom; r++)
    for (let c = left; c <= right; c++)
      heightsM[r * size + c] = Math.round(
        height(toSpot({ latitudeDeg: southDeg + 1 - r / steps, longitudeDeg: westDeg + c / steps })),
      );
  return { ...TILE, heightsM };
}
