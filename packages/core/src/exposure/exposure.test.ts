import { exposureOf, GROUPS, keyedShareOf, limitOf, RULES } from './exposure.js';

const STATION = { frequencyMHz: 144.39, powerW: 50, feedLossDb: 0, gainDbi: 6, keyedShare: 1 };

it('50 W, 6 dBi, all the time, 2 W/m²: 4.50 m and 5.63 m (FCC OET-65, worked)', () => {
  const exposure = exposureOf(STATION, 'FCC', 'public');
  expect(exposure?.distanceM.toFixed(2)).toBe('4.50');
  expect(exposure?.worstM.toFixed(2)).toBe('5.63');
  expect(exposure?.nearFieldM.toFixed(2)).toBe('0.33');
  expect(exposure?.limit).toEqual({ density: 2, averagedMin: 30 });
});

it('a quarter of the time, or 6 dB of line, is half of the distance', () => {
  const whole = exposureOf(STATION, 'FCC', 'public')?.distanceM ?? 0;
  expect(exposureOf({ ...STATION, keyedShare: 0.25 }, 'FCC', 'public')?.distanceM).toBeCloseTo(whole / 2, 9);
  const line = { ...STATION, feedLossDb: 10 * Math.log10(4) };
  expect(exposureOf(line, 'FCC', 'public')?.distanceM).toBeCloseTo(whole / 2, 9);
});

// 47 CFR 1.1310 table 1 (mW/cm², times ten), ICNIRP 2020 table 5.
it.each([
  ['FCC', 'public', 28, 1800 / 784],
  ['FCC', 'occupational', 28, 9000 / 784],
  ['FCC', 'public', 30, 2],
  ['FCC', 'public', 299, 2],
  ['FCC', 'occupational', 144, 10],
  ['FCC', 'public', 450, 3],
  ['FCC', 'occupational', 450, 15],
  ['FCC', 'public', 1500, 10],
  ['FCC', 'occupational', 2400, 50],
  ['ICNIRP', 'public', 144, 2],
  ['ICNIRP', 'public', 399, 2],
  ['ICNIRP', 'public', 440, 2.2],
  ['ICNIRP', 'occupational', 440, 11],
  ['ICNIRP', 'public', 2000, 10],
] as const)('%s, %s, %f MHz: %f W/m²', (rule, group, mhz, density) =>
  expect(limitOf(rule, group, mhz)?.density).toBeCloseTo(density, 9),
);

it('says nothing where they limit something else', () => {
  expect(limitOf('ICNIRP', 'public', 29.9)).toBeUndefined();
  expect(exposureOf({ ...STATION, frequencyMHz: 28.5 }, 'ICNIRP', 'public')).toBeUndefined();
  expect(limitOf('FCC', 'public', 2.9)).toBeUndefined();
  for (const rule of RULES) for (const group of GROUPS) expect(limitOf(rule, group, 6001)).toBeUndefined();
});

it('is averaged over half an hour for the public; over six minutes for who works with it, by one of them', () => {
  const times = RULES.map((rule) => GROUPS.map((group) => limitOf(rule, group, 144)?.averagedMin));
  expect(times).toEqual([
    [30, 6],
    [30, 30],
  ]);
});

it('the share of the averaging time: beacons that come, the first at its beginning; a session fills it', () => {
  // 0.7 s every 10 min: three in half an hour.
  expect(keyedShareOf(700, 600_000, 30)).toBeCloseTo((3 * 0.7) / 1800, 12);
  expect(keyedShareOf(700, 700_000, 30)).toBeCloseTo((3 * 0.7) / 1800, 12);
  expect(keyedShareOf(700, 3_600_000, 30)).toBeCloseTo(0.7 / 1800, 12);
  expect(keyedShareOf(60_000, 60_000, 6)).toBe(1);
  expect(keyedShareOf(90_000, 60_000, 6)).toBe(1);
});
