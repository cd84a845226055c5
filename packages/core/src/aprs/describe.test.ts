import { fromLatin1 } from '../bits/octets.js';
import { describeFrequency, describeReport, describeTelemetry, describeWeather } from './describe.js';
import { encodeItem } from './object.js';
import { parseAprs } from './parse.js';
import type { AprsReport, Weather } from './report.js';

const METRIC = { units: 'metric', coordinates: 'decimal' } as const;
const words = (report: Partial<AprsReport>): string =>
  describeReport({ type: 'position', ...report }, METRIC);

describe('one line of a report', () => {
  it.each([
    [{ type: 'unknown' }, 'not read as APRS: unknown kind'],
    [{ type: 'unknown', reason: 'cut off' }, 'not read as APRS: cut off'],
    [{ type: 'query', query: { name: 'APRS' } }, 'asks all stations: APRS'],
    [{ type: 'object', object: { name: 'Tent', live: true } }, 'object Tent'],
    [{ type: 'item', object: { name: 'Tent', live: false } }, 'item Tent (gone)'],
    [{ type: 'mic-e', micE: { message: 'in service', gpsFix: 'old' } }, 'position, in service'],
    [{ type: 'message', message: { addressee: 'QH5OST' } }, 'message to QH5OST'],
    [
      { type: 'message', message: { addressee: 'QH5OST', number: '7', text: 'hi' } },
      'message to QH5OST no. 7: hi',
    ],
    [
      { phg: { powerW: 25, heightM: 20, gainDb: 3, directivityDeg: 0 } },
      'position · 25 W, 20 m over the ground around, 3 dB all round',
    ],
    [
      { phg: { powerW: 25, heightM: 20, gainDb: 3, directivityDeg: 360, rangeM: 9000 } },
      'position · 25 W, 20 m over the ground around, 3 dB to the N · reach 9.0 km at most, to the N',
    ],
    [
      { phg: { powerW: 1, heightM: 20, gainDb: 0, directivityDeg: 0, rangeM: 9000 }, rangeM: 1000 },
      'position · 1 W, 20 m over the ground around, 0 dB all round · reach 9.0 km',
    ],
    [{ rangeM: 12_000 }, 'position · reach 12 km'],
    [{ dfs: { strengthS: 4 } }, 'position · hears a signal of S4'],
    [{ signpost: '50' }, 'position · sign “50”'],
    [{ area: { filled: true, shape: 'right-line' } }, 'position · filled right line'],
    [{ area: { filled: false, shape: 'circle' } }, 'position · circle'],
    [{ bearing: { bearingDeg: 90, hits: 0, rangeM: 1000 } }, 'position · signal from 90°, of no use'],
    [{ bearing: { bearingDeg: 90, hits: 1 } }, 'position · signal from 90°'],
    [
      { bearing: { bearingDeg: 90, widthDeg: 16, hits: 2, rangeM: 2000 } },
      'position · signal from 90° ± 8°, within 2.0 km',
    ],
    [{ latitudeDeg: 1 }, 'position'],
    [{ longitudeDeg: 1 }, 'position'],
    [{ speedMps: 10, courseDeg: 90 }, 'position · 36 km/h E'],
    [{ speedMps: 10 }, 'position · 36 km/h'],
    [{ speedMps: 0, courseDeg: 90 }, 'position · 0 km/h'],
    [{ courseDeg: 90 }, 'position'],
    [{ altitudeM: 0 }, 'position · 0 m up'],
    [{ type: 'telemetry', telemetry: { sequence: '5', analog: [1, 2] } }, 'telemetry · no. 5: 1, 2'],
    [
      { telemetry: { sequence: '5', analog: [1], digital: '01000000' } },
      'position · telemetry no. 5: 1, bits 01000000',
    ],
    [
      { type: 'capabilities', capabilities: [{ name: 'IGATE' }, { name: 'LOC_CNT', value: '3' }] },
      'capabilities · IGATE, LOC_CNT 3',
    ],
    [{ comment: 'hello' }, 'position · hello'],
    [{ type: 'user-defined', userDefined: { data: 'x1' } }, 'user defined · x1'],
  ] as unknown as [Partial<AprsReport>, string][])('%j', (report, line) => {
    expect(words(report)).toBe(line);
  });

  it('of a storm', () => {
    const storm = { kind: 'tropical-storm', sustainedWindMps: 20, gustMps: 30, pressureHpa: 980 };
    expect(words({ storm } as Partial<AprsReport>)).toBe(
      'position · tropical storm, 20 m/s, gusts 30 m/s, 980 hPa',
    );
  });
});

describe('what a radio is set to', () => {
  it.each([
    [{}, ''],
    [{ frequencyMHz: 145.675, offsetKHz: -600, toneHz: 94.8 }, '145.675 MHz −0.6 MHz tone 94.8 Hz'],
    [{ frequencyMHz: 145.675, offsetKHz: 0 }, '145.675 MHz +0 MHz'],
    [{ receiveMHz: 438.95, toneHz: 1750 }, 'hears on 438.950 burst 1750 Hz'],
    [{ dcs: 23, toneOff: true, narrow: true, rangeKm: 12 }, 'code 23 no tone narrow within 12 km'],
  ])('%j', (frequency, line) => {
    expect(describeFrequency(frequency as never, 'metric')).toBe(line);
  });
});

describe('weather', () => {
  const NO_RAIN = {
    windGustMps: 0,
    rainLastHourMm: 0,
    rainLast24hMm: 0,
    rainSinceMidnightMm: 0,
    snowLast24hMm: 0,
  };
  it.each([
    [{}, 'metric', ''],
    [NO_RAIN, 'metric', ''],
    [{ temperatureC: 0, windSpeedMps: 0 }, 'metric', '0 °C, wind 0 m/s'],
    [{ windDirectionDeg: 90, windSpeedMps: 3, windGustMps: 5 }, 'metric', 'E 3 m/s, gusts 5 m/s'],
    [
      { rainLastHourMm: 1, rainSinceMidnightMm: 2, rainLast24hMm: 3 },
      'metric',
      'rain 1.0 mm in an hour, rain 2.0 mm since midnight, rain 3.0 mm in 24 h',
    ],
    [
      { rainLastHourMm: 25.4, snowLast24hMm: 50.8 },
      'imperial',
      'rain 1.00 in in an hour, snow 2.0 in in 24 h',
    ],
    [{ snowLast24hMm: 50 }, 'metric', 'snow 5 cm in 24 h'],
    [{ humidityPercent: 0, pressureHpa: 1013.4, luminosityWm2: 0 }, 'metric', '0 %, 1013 hPa, sun 0 W/m²'],
    [{ waterLevelM: 0 }, 'metric', 'water 0.00 m above flood stage'],
    [{ waterLevelM: -0.3048 }, 'imperial', 'water 1.0 ft below flood stage'],
    [{ radiationNsvPerHour: 99.6, batteryV: 12.6 }, 'metric', '100 nSv/h, battery 12.6 V'],
  ] as [Weather, 'metric' | 'imperial', string][])('%j, %s', (weather, units, line) => {
    expect(describeWeather(weather, units)).toBe(line);
  });
});

it('raw telemetry', () => {
  expect(describeTelemetry({ sequence: '005', analog: [1, 2] } as never)).toBe('no. 005: 1, 2');
});

// from: APRS Protocol Reference 1.0.1, chapter 11, "Item Report Format"
describe('an item that is sent', () => {
  const item = (name: string) =>
    ({
      type: 'item',
      object: { name, live: true },
      latitudeDeg: 1,
      longitudeDeg: 2,
      symbol: { table: '/', code: '-' },
    }) as unknown as AprsReport;

  it.each(['AB', 'ABCDEFGHIJ', 'A!C', 'A_C', ''])('has no name “%s”', (name) => {
    expect(() => encodeItem(item(name))).toThrow(RangeError);
  });

  it('has a name of 3 to 9', () => {
    for (const name of ['ABC', 'ABCDEFGHI']) expect(encodeItem(item(name))).toContain(`)${name}!`);
    const { object: _, ...nameless } = item('ABC');
    expect(() => encodeItem(nameless as AprsReport)).toThrow(RangeError);
  });
});

// from: APRS Protocol Reference 1.0.1, chapter 5, "Mic-E": custom bits A to K, standard bits P to Y, mixed: unknown
describe('the message of a Mic-E report', () => {
  const INFO = '`(_fn"Oj/';
  it.each([
    ['S32U6T', 'in service'],
    ['332U6T', 'emergency'],
    ['D32U6T', 'custom 3'],
    ['DS2U6T', 'unknown'],
    ['SD2U6T', 'unknown'],
    ['DD2U6T', 'custom 1'],
  ])('to %s', (destination, message) => {
    const report = parseAprs(fromLatin1(INFO), destination);
    if (message === 'in service') expect(report.micE?.message).not.toMatch(/custom|unknown|emergency/);
    else expect(report.micE?.message).toBe(message);
  });
});
