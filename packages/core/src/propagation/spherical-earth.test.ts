import { bullingtonLossDb } from './bullington.js';
import { deltaBullingtonLossDb } from './delta-bullington.js';
import { wavelengthM } from './free-space.js';
import { EFFECTIVE_EARTH_KM, type Profile } from './profile.js';
import { sphericalEarthLossDb } from './spherical-earth.js';

const MHZ = 144.8;
const λ = wavelengthM(MHZ);

const smooth = (distanceKm: number, height1M = 30, height2M = 10, frequencyMHz = MHZ): number =>
  sphericalEarthLossDb({
    distanceKm,
    height1M,
    height2M,
    frequencyMHz,
    wavelengthM: wavelengthM(frequencyMHz),
  });

const horizonKm = (height1M: number, height2M: number): number =>
  Math.sqrt(2 * EFFECTIVE_EARTH_KM * 0.001) * (Math.sqrt(height1M) + Math.sqrt(height2M));

describe('a smooth earth', () => {
  // Creeping wave (Fock): 2.338107·(√3/2)·(ka/2)^(1/3)/a Np/m, 2.338107 the first zero of the Airy function (Abramowitz and
  // Stegun, table 10.13); 10 log X belongs to the spreading.
  it.each([50, 144.8, 430])('is crept round as theory has it, at %d MHz', (frequencyMHz) => {
    const k = (2 * Math.PI) / wavelengthM(frequencyMHz);
    const a = EFFECTIVE_EARTH_KM * 1000;
    const dbPerKm = (8.685889 * 1000 * 2.338107 * Math.sqrt(0.75) * Math.cbrt((k * a) / 2)) / a;
    const [near, far] = [150, 250];
    const measured = smooth(far, 30, 10, frequencyMHz) - smooth(near, 30, 10, frequencyMHz);
    const expected = dbPerKm * (far - near) - 10 * Math.log10(far / near);
    expect(Math.abs(measured / expected - 1)).toBeLessThan(0.01);
  });

  it('has no step at the horizon, and costs nothing where the ray is free', () => {
    const at = horizonKm(30, 10);
    expect(smooth(at - 0.001)).toBeCloseTo(smooth(at + 0.001), 1);
    expect(smooth(5, 200, 200)).toBe(0);
    expect(smooth(at)).toBeGreaterThan(15);
  });

  it('costs more the further, and less the higher, alike both ways', () => {
    for (let km = 5; km < 120; km += 0.5) expect(smooth(km + 0.5)).toBeGreaterThanOrEqual(smooth(km));
    for (let h = 2; h < 200; h += 2) expect(smooth(40, h + 2, 10)).toBeLessThanOrEqual(smooth(40, h, 10));
    expect(smooth(40, 3, 80)).toBeCloseTo(smooth(40, 80, 3), 9);
  });

  it('is a number for an antenna on the ground', () => expect(Number.isFinite(smooth(20, 0, 2))).toBe(true));
});

/** heightsM at every 0.5 km. */
const land = (lengthKm: number, heightM: (km: number) => number): Profile => {
  const distancesKm = Array.from({ length: 2 * lengthKm + 1 }, (_, i) => i / 2);
  return { distancesKm, heightsM: distancesKm.map(heightM), antenna1M: 30, antenna2M: 10 };
};
const loss = (profile: Profile): number => deltaBullingtonLossDb(profile, MHZ, λ);

describe('delta-Bullington', () => {
  it('over smooth ground is the smooth earth, at whatever height above the sea', () => {
    expect(loss(land(60, () => 0))).toBeCloseTo(smooth(60), 6);
    expect(loss(land(60, () => 800))).toBeCloseTo(smooth(60), 6);
  });

  // arithmetic: under an even slope both antennas stand their own heights above the fitted line.
  it('fits an even slope exactly', () => {
    const slope = land(60, (km) => 10 * km);
    const lift =
      bullingtonLossDb(slope, λ) -
      bullingtonLossDb(
        land(60, () => 0),
        λ,
      );
    expect(loss(slope) - smooth(60)).toBeCloseTo(lift, 6);
  });

  it('behind one ridge is Bullington’s loss and little more, and never less', () => {
    const ridge = land(30, (km) => (Math.abs(km - 12) < 0.6 ? 500 : 0));
    const plain = bullingtonLossDb(ridge, λ);
    expect(loss(ridge)).toBeGreaterThanOrEqual(plain);
    expect(loss(ridge) - plain).toBeLessThan(12);
  });

  it('is the same both ways', () => {
    const hills = land(40, (km) => 120 + 100 * Math.sin(km / 3));
    const { heightsM, antenna1M, antenna2M } = hills;
    const back = {
      ...hills,
      heightsM: Array.from(heightsM).reverse(),
      antenna1M: antenna2M,
      antenna2M: antenna1M,
    };
    expect(loss(hills)).toBeCloseTo(loss(back), 6);
  });

  it('goes without a sample between the ends', () => {
    expect(Number.isFinite(loss({ distancesKm: [0, 1], heightsM: [0, 0], antenna1M: 2, antenna2M: 2 }))).toBe(
      true,
    );
  });
});
