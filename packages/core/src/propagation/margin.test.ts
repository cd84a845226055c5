import { placeAt } from '../geo/position.js';
import { bestSpots } from './best-spots.js';
import { freeSpaceLossDb, fresnelRadiusM } from './free-space.js';
import {
  chanceOf,
  leastClearance,
  reachBetween,
  SPREAD_BLOCKED_DB,
  SPREAD_CLEAR_DB,
  type RadioEnd,
} from './margin.js';
import { bulgeM, type Ground } from './profile.js';
import { reachMap } from './reach-map.js';

const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
const MHZ = 144.8;
const SEA: Ground = () => 0;
const end = (position = HERE, heightM = 800): RadioEnd => ({
  position,
  heightM,
  powerW: 5,
  gainDbi: 0,
  thresholdDbm: -113,
});

describe('the margin', () => {
  const there = placeAt(HERE, 20, 90);

  it('is what arrives over the threshold of whoever listens, each way by its own', () => {
    const strong = { ...end(there), powerW: 50, thresholdDbm: -120 };
    const { there: out, back, distanceKm } = reachBetween(end(), strong, SEA, MHZ);
    expect(distanceKm).toBeCloseTo(20, 3);
    // 5 W = 36.99 dBm, 50 W ten dB more.
    expect(out.marginDb).toBeCloseTo(36.99 - freeSpaceLossDb(MHZ, 20) + 120, 1);
    expect(back.receivedDbm - out.receivedDbm).toBeCloseTo(10, 6);
    expect(back.marginDb).toBeCloseTo(out.marginDb + 10 - 7, 6);
    expect(out.spreadDb).toBe(SPREAD_CLEAR_DB);
  });

  it('of a place to itself is that of two sets on one table', () => {
    const { there: out, clearance } = reachBetween(end(), end(), SEA, MHZ);
    expect(out.marginDb).toBeGreaterThan(60);
    expect(Number.isFinite(out.marginDb)).toBe(true);
    expect(clearance.radii).toBe(Infinity);
  });

  it('is less sure where the ground decides', () => {
    const ridge: Ground = ({ longitudeDeg }) => (longitudeDeg > -11.35 && longitudeDeg < -11.3 ? 2000 : 0);
    const { there: out, clearance } = reachBetween(end(), end(there), ridge, MHZ);
    expect(out.spreadDb).toBe(SPREAD_BLOCKED_DB);
    expect(clearance.radii).toBeLessThan(0);
    expect(clearance.km).toBeGreaterThan(4);
    expect(clearance.km).toBeLessThan(11);
  });

  // Tables of the normal distribution: 0.8413 at one deviation, 0.9772 at two, 0.5 at none.
  it.each([
    [0, 0.5],
    [6, 0.8413],
    [12, 0.9772],
    [-6, 0.1587],
  ])('of %d dB at 6 dB of spread is reached with chance %d', (marginDb, chance) =>
    expect(chanceOf(marginDb, 6)).toBeCloseTo(chance, 4),
  );

  // arithmetic: in the middle of 20 km with both ends 60 m up the line is 60 m over the bulge.
  it('tells how many radii of the first ellipsoid are free', () => {
    const profile = { distancesKm: [0, 10, 20], heightsM: [0, 0, 0], antenna1M: 60, antenna2M: 60 };
    const { radii, km } = leastClearance(profile, MHZ);
    expect(km).toBe(10);
    expect(radii).toBeCloseTo((60 - bulgeM(10, 20)) / fresnelRadiusM(MHZ, 10, 10), 9);
  });
});

describe('the reach map', () => {
  const wish = {
    centre: end(HERE, 60),
    mobile: { heightM: 2, powerW: 5, gainDbi: -3, thresholdDbm: -110 },
    frequencyMHz: MHZ,
    radiusKm: 20,
    bearings: 8,
    stepKm: 0.25,
  };
  // A wall in the east only.
  const wall: Ground = ({ longitudeDeg }) => (longitudeDeg > -11.32 && longitudeDeg < -11.31 ? 600 : 0);

  it('goes bearing by bearing, and says what two points say', () => {
    const rays = [...reachMap(wish, wall)];
    expect(rays.map(({ bearingDeg }) => bearingDeg)).toEqual([0, 45, 90, 135, 180, 225, 270, 315]);
    const east = rays[2]?.marginsDb;
    expect(east).toHaveLength(80);
    const at = { ...end(placeAt(HERE, 15, 90), 2), gainDbi: -3, thresholdDbm: -110 };
    const two = reachBetween(wish.centre, at, wall, MHZ);
    expect(east?.[59]).toBeCloseTo(Math.min(two.there.marginDb, two.back.marginDb), 0);
  });

  it('ends behind the wall, and not beside it', () => {
    const [north, , east] = [...reachMap(wish, wall)];
    expect((north?.marginsDb[50] as number) - (east?.marginsDb[50] as number)).toBeGreaterThan(15);
    expect(north?.marginsDb[20]).toBeCloseTo(east?.marginsDb[20] as number, 1);
  });

  it('can be stopped between two bearings', () => {
    const rays = reachMap(wish, SEA);
    expect(rays.next().done).toBe(false);
    rays.return(undefined);
    expect(rays.next().done).toBe(true);
  });
});

describe('where nearby one would be heard', () => {
  const hill = placeAt(HERE, 1.2, 40);
  // One hill of 300 m within a valley that a ridge shuts off, 3 km to the east.
  const ground: Ground = ({ latitudeDeg, longitudeDeg }) => {
    const toHill = Math.hypot(
      (latitudeDeg - hill.latitudeDeg) * 111,
      (longitudeDeg - hill.longitudeDeg) * 97,
    );
    return Math.max(1, 300 - 900 * toHill, Math.abs(longitudeDeg + 11.36) < 0.003 ? 250 : 0);
  };
  const wish = {
    here: end(HERE, 2),
    ears: [end(placeAt(HERE, 60, 270), 10), end(placeAt(HERE, 15, 90), 10)],
    frequencyMHz: MHZ,
    radiusKm: 2,
    stepKm: 0.2,
    wanted: 3,
  };

  it('names the hill, how to get there, whom it reaches, and what it gains', () => {
    const [best, ...others] = bestSpots(wish, ground);
    expect(best?.distanceKm).toBeCloseTo(1.2, 1);
    expect(Math.abs((best?.bearingDeg ?? 0) - 40)).toBeLessThan(8);
    expect(best?.ear).toBe(1);
    expect(best?.gainDb).toBeGreaterThan(10);
    expect(others.length).toBeLessThanOrEqual(2);
    for (const spot of others) expect(spot.marginDb).toBeLessThanOrEqual(best?.marginDb ?? 0);
  });

  it('names nothing where everywhere is as bad, nobody listens, or all is water', () => {
    expect(bestSpots({ ...wish, ears: [] }, ground)).toEqual([]);
    expect(bestSpots(wish, SEA)).toEqual([]);
  });
});
