import { CTCSS_TONES_HZ, toneOfWholeHertz } from './tones.js';
import {
  celsiusToFahrenheit,
  fahrenheitToCelsius,
  formatDistance,
  formatHeight,
  formatPressure,
  formatRain,
  formatSpeed,
  formatTemperature,
  formatWind,
} from './units.js';

describe('figures for people', () => {
  it.each([
    [0, '0 m', '0.0 mi', '0.0 nmi'],
    [0.999, '999 m', '0.6 mi', '0.5 nmi'],
    [1, '1.0 km', '0.6 mi', '0.5 nmi'],
    [1.852, '1.9 km', '1.2 mi', '1.0 nmi'],
    [9.94, '9.9 km', '6.2 mi', '5.4 nmi'],
    [10, '10 km', '6.2 mi', '5.4 nmi'],
    [160.9344, '161 km', '100 mi', '87 nmi'],
  ])('%d km', (km, metric, imperial, nautical) => {
    expect([
      formatDistance(km, 'metric'),
      formatDistance(km, 'imperial'),
      formatDistance(km, 'nautical'),
    ]).toEqual([metric, imperial, nautical]);
  });

  it('of speed and wind', () => {
    expect([formatSpeed(10, 'metric'), formatSpeed(10, 'imperial'), formatSpeed(10, 'nautical')]).toEqual([
      '36 km/h',
      '22 mph',
      '19 kt',
    ]);
    expect([formatWind(10, 'metric'), formatWind(10, 'imperial'), formatWind(10, 'nautical')]).toEqual([
      '10 m/s',
      '22 mph',
      '19 kt',
    ]);
  });

  it('of warmth and height, with a minus that is one', () => {
    // The scales meet at −40.
    expect([celsiusToFahrenheit(-40), fahrenheitToCelsius(-40), celsiusToFahrenheit(100)]).toEqual([
      -40, -40, 212,
    ]);
    expect([formatTemperature(-0.6, 'metric'), formatTemperature(0, 'imperial')]).toEqual(['−1 °C', '32 °F']);
    expect([formatTemperature(-0.4, 'metric'), formatTemperature(21.5, 'metric')]).toEqual(['0 °C', '22 °C']);
    expect([formatHeight(100, 'metric'), formatHeight(304.8, 'imperial')]).toEqual(['100 m', '1000 ft']);
  });
});

describe('tones', () => {
  it('rise in steps of 1.5 to 4 % (the usual spacing of the table), and the 38 of the standard are among them', () => {
    // from: TIA-603, the 38 standard CTCSS tones (from memory)
    const standard = [
      67.0, 71.9, 74.4, 77.0, 79.7, 82.5, 85.4, 88.5, 91.5, 94.8, 97.4, 100.0, 103.5, 107.2, 110.9, 114.8,
      118.8, 123.0, 127.3, 131.8, 136.5, 141.3, 146.2, 151.4, 156.7, 162.2, 167.9, 173.8, 179.9, 186.2, 192.8,
      203.5, 210.7, 218.1, 225.7, 233.6, 241.8, 250.3,
    ];
    for (const tone of standard) expect(CTCSS_TONES_HZ).toContain(tone);
    CTCSS_TONES_HZ.slice(1).forEach((tone, i) => {
      const step = tone / (CTCSS_TONES_HZ[i] as number);
      expect(step).toBeGreaterThan(1.013);
      expect(step).toBeLessThan(1.04);
    });
    expect([CTCSS_TONES_HZ.length, CTCSS_TONES_HZ.at(-1)]).toEqual([50, 254.1]);
  });

  it('are told by their whole hertz; a figure that is none stays', () => {
    expect([toneOfWholeHertz(94), toneOfWholeHertz(192), toneOfWholeHertz(95)]).toEqual([94.8, 192.8, 95]);
  });
});

it.each([
  [0, '0.0 mm', '0.00 in'],
  [25.4, '25.4 mm', '1.00 in'],
])('%d mm of rain', (mm, metric, imperial) => {
  expect([formatRain(mm, 'metric'), formatRain(mm, 'nautical'), formatRain(mm, 'imperial')]).toEqual([
    metric,
    metric,
    imperial,
  ]);
});

it.each([
  [1013.25, '1013 hPa', '29.92 inHg'],
  [1015.9167, '1016 hPa', '30.00 inHg'],
])('%d hPa', (hpa, metric, imperial) => {
  expect([formatPressure(hpa, 'metric'), formatPressure(hpa, 'imperial')]).toEqual([metric, imperial]);
});
