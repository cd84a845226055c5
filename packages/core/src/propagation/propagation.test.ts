import { placeAt, wayTo } from '../geo/position.js';
import { bullingtonLossDb } from './bullington.js';
import { deygoutLossDb } from './deygout.js';
import { freeSpaceLossDb, fresnelRadiusM, horizonKm, wavelengthM } from './free-space.js';
import { diffractionParameter, knifeEdgeLossDb } from './knife-edge.js';
import { bulgeM, cutProfile, EFFECTIVE_EARTH_KM, type Profile } from './profile.js';
import { PACKET_THRESHOLD_DBM, pathLoss, receivedDbm, type RadioSite } from './reach.js';

const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
const MHZ = 144.8;

describe('closed formulas', () => {
  // ITU-R P.525, worked: 144.39 MHz, 10 km.
  it('free space', () => expect(freeSpaceLossDb(144.39, 10)).toBeCloseTo(95.63, 2));

  // 4/3 earth, worked: 1.5 m and 100 m.
  it('horizon', () => expect(horizonKm(1.5, 100)).toBeCloseTo(46.2, 1));

  // arithmetic: √(λ·d/4) in the middle; λ = 2.0704 m, d = 10 km.
  it('Fresnel radius', () => {
    expect(wavelengthM(MHZ)).toBeCloseTo(2.0704, 4);
    expect(fresnelRadiusM(MHZ, 5, 5)).toBeCloseTo(Math.sqrt((2.0704 * 10_000) / 4), 1);
  });

  // ITU-R P.526, worked: J(0) = 6.03 dB, J(1) = 13.93 dB; nothing at −0.78 and below.
  it.each([
    [0, 6.03],
    [1, 13.93],
    [-0.78, 0],
    [-5, 0],
  ])('knife edge J(%d) = %d dB', (nu, dB) => expect(knifeEdgeLossDb(nu)).toBeCloseTo(dB, 2));

  it('the loss rises with ν and has no step where it begins', () => {
    for (let nu = -2; nu < 6; nu += 0.01) {
      const here = knifeEdgeLossDb(nu);
      expect(knifeEdgeLossDb(nu + 0.01)).toBeGreaterThanOrEqual(here);
    }
    expect(knifeEdgeLossDb(-0.7799)).toBeLessThan(0.03);
  });

  // arithmetic: at half of the first Fresnel radius below the line, ν = −√2/2.
  it('ν is −√2 times the clearance in Fresnel radii', () => {
    const radius = fresnelRadiusM(MHZ, 3, 9);
    expect(diffractionParameter(-0.5 * radius, 3, 9, wavelengthM(MHZ))).toBeCloseTo(-Math.SQRT1_2, 3);
  });

  it.each([
    ['free space without distance', () => freeSpaceLossDb(144, 0)],
    ['a negative frequency', () => wavelengthM(-1)],
    ['ν that is none', () => knifeEdgeLossDb(NaN)],
  ])('%s is a mistake of the caller', (_, call) => expect(call).toThrow(RangeError));
});

/** Flat ground at sea level with walls, antennas 30 m up, so high a sampling that a wall is one point. */
function walls(lengthKm: number, ...at: [number, number][]): Profile {
  const steps = 200;
  const distancesKm = Array.from({ length: steps + 1 }, (_, i) => (lengthKm * i) / steps);
  const heightsM = distancesKm.map((km) => at.find(([wall]) => Math.abs(wall - km) < 1e-9)?.[1] ?? -500);
  heightsM[0] = heightsM[steps] = 0;
  return { distancesKm, heightsM, antenna1M: 30, antenna2M: 30 };
}

describe.each([
  ['Bullington', bullingtonLossDb, 0.02],
  ['Deygout', deygoutLossDb, 0.04],
] as const)('%s', (_, loss, perKm) => {
  const λ = wavelengthM(MHZ);

  it('costs nothing where all is far below the line', () => expect(loss(walls(20), λ)).toBe(0));

  // P.526: one edge gives J(ν) and, in both constructions, the correction (1 − e^(−J/6))·(10 + c·d).
  it.each([0, 40, 300])('of one wall standing %i m above the line is J with its correction', (above) => {
    const height = 30 + above - bulgeM(5, 20);
    const edge = knifeEdgeLossDb(diffractionParameter(above, 5, 15, λ));
    const expected = edge + (1 - Math.exp(-edge / 6)) * (10 + perKm * 20);
    expect(loss(walls(20, [5, height]), λ)).toBeCloseTo(expected, 6);
  });

  it('two walls cost more than the worse of them, and the way back as much as the way there', () => {
    const both = walls(20, [5, 200], [16, 150]);
    const back: Profile = { ...both, heightsM: Array.from(both.heightsM).reverse() };
    expect(loss(both, λ)).toBeGreaterThan(loss(walls(20, [5, 200]), λ));
    expect(loss(both, λ)).toBeCloseTo(loss(back, λ), 9);
  });

  it('a wall at the very end is a number', () => {
    const near = walls(20, [0.1, 5000], [19.9, 9000]);
    expect(loss(near, λ)).toBeGreaterThan(50);
    expect(Number.isFinite(loss(near, λ))).toBe(true);
  });
});

describe('ground between two places', () => {
  it('is cut along the geodesic with both ends', () => {
    const there = placeAt(HERE, 9.5, 70);
    const seen: number[] = [];
    const profile = cutProfile((at) => seen.push(wayTo(HERE, at).distanceKm), HERE, there, {
      antenna1M: 2,
      antenna2M: 10,
      stepKm: 1,
    });
    expect(profile.distancesKm).toHaveLength(11);
    seen.forEach((km, i) => expect(km).toBeCloseTo(0.95 * i, 4));
  });

  // arithmetic: 40 km over a sphere of 8495 km: 500·20·20/8495.
  it('bulges', () => expect(bulgeM(20, 40)).toBeCloseTo((500 * 400) / EFFECTIVE_EARTH_KM, 9));
});

const site = (position: RadioSite['position'], heightM: number): RadioSite => ({
  position,
  heightM,
  powerW: 5,
  gainDbi: 0,
});

describe('reach', () => {
  const sea = (): number => 0;
  const there = placeAt(HERE, 20, 90);

  it('over open sea from a height is free space', () => {
    const [a, b] = [site(HERE, 800), site(there, 800)];
    expect(pathLoss(a, b, sea, MHZ)).toMatchObject({ groundDb: 0 });
    // 5 W = 36.99 dBm less 101.7 dB at 20 km.
    expect(receivedDbm(a, b, sea, MHZ)).toBeCloseTo(36.99 - freeSpaceLossDb(MHZ, 20), 1);
  });

  it('behind a ridge is gone, and a balloon sees over it', () => {
    const ridge = ({ longitudeDeg }: RadioSite['position']): number =>
      Math.abs(longitudeDeg - (-11.4 + there.longitudeDeg) / 2) < 0.01 ? 900 : 0;
    const handheld = { ...site(HERE, 1.5), gainDbi: -5 };
    expect(receivedDbm(handheld, site(there, 2), ridge, MHZ)).toBeLessThan(PACKET_THRESHOLD_DBM);
    const balloon = { ...site(there, 9000), isAboveSea: true };
    expect(receivedDbm(handheld, balloon, ridge, MHZ)).toBeGreaterThan(PACKET_THRESHOLD_DBM);
  });

  it('is the same both ways, and a place reaches itself', () => {
    const hill = ({ latitudeDeg }: RadioSite['position']): number => 300 + 3000 * (latitudeDeg + 29.6);
    const [a, b] = [site(HERE, 5), site(placeAt(HERE, 15, 20), 40)];
    expect(receivedDbm(a, b, hill, MHZ)).toBeCloseTo(receivedDbm(b, a, hill, MHZ), 3);
    expect(receivedDbm(a, a, hill, MHZ)).toBeGreaterThan(-50);
  });
});
