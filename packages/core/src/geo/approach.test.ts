import { closestApproach, deadReckoned, type Moving } from './approach.js';
import { placeAt, wayTo } from './position.js';

const HUT = { latitudeDeg: -29.632, longitudeDeg: -11.405 };
const moving = (bearingDeg: number, km: number, courseDeg: number, speedMps: number): Moving => ({
  position: placeAt(HUT, km, bearingDeg),
  courseDeg,
  speedMps,
});
const STANDS: Moving = { position: HUT, courseDeg: 0, speedMps: 0 };

/** By the closed forms of plane kinematics. */
describe('the nearest that two come to one another', () => {
  it('one that comes straight here: after its distance over its speed', () => {
    const { rangeRateMps, nearestInS, nearestKm } = closestApproach(STANDS, moving(0, 6, 180, 10));
    expect(rangeRateMps).toBeCloseTo(-10, 6);
    expect(nearestInS).toBeCloseTo(600, 0);
    expect(nearestKm).toBeLessThan(0.01);
  });

  it('one that passes: by the sine of the angle', () => {
    // 6 km to the north, going 150°: it passes at 6·sin 30° = 3 km, after 6·cos 30° km.
    const { nearestInS, nearestKm } = closestApproach(STANDS, moving(0, 6, 150, 10));
    expect(nearestKm).toBeCloseTo(3, 2);
    expect(nearestInS).toBeCloseTo((6000 * Math.cos(Math.PI / 6)) / 10, 0);
  });

  it('both go: what counts is the one against the other', () => {
    const { rangeRateMps, nearestInS } = closestApproach(
      { ...STANDS, courseDeg: 90, speedMps: 5 },
      moving(90, 3, 270, 10),
    );
    expect(rangeRateMps).toBeCloseTo(-15, 6);
    expect(nearestInS).toBeCloseTo(200, 0);
  });

  it.each([
    ['parting', moving(0, 6, 0, 10), 10],
    ['side by side', moving(90, 2, 0, 0), 0],
  ])('%s they are nearest now', (_, other, rate) => {
    const { rangeRateMps, nearestInS, nearestKm } = closestApproach(STANDS, other);
    expect(rangeRateMps).toBeCloseTo(rate, 6);
    expect(nearestInS).toBe(0);
    expect(nearestKm).toBeCloseTo(wayTo(HUT, other.position).distanceKm, 6);
  });

  it('at the same place they part as fast as they go', () => {
    expect(closestApproach(STANDS, { ...STANDS, speedMps: 3 })).toEqual({
      rangeRateMps: 3,
      nearestInS: 0,
      nearestKm: 0,
    });
  });
});

it('dead reckoning goes straight on', () => {
  const after = deadReckoned({ position: HUT, courseDeg: 42, speedMps: 20 }, 300);
  const { distanceKm, bearingDeg } = wayTo(HUT, after);
  expect(distanceKm).toBeCloseTo(6, 6);
  expect(bearingDeg).toBeCloseTo(42, 6);
  expect(deadReckoned(STANDS, 1000)).toEqual(
    expect.objectContaining({ latitudeDeg: expect.closeTo(HUT.latitudeDeg, 9) as number }),
  );
});
