import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { toHex } from '@mistpeak/core/bits/octets';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { daysInWords, hoursInWords, weatherCurves } from './station-charts';
import { stationSeries } from './station-series';

const DAY = Date.UTC(2026, 3, 18);
const MINUTE = 60_000;
let last = 0;
const record = (minute: number, line: string, more: Partial<FrameRecord> = {}): FrameRecord => ({
  id: `series ${last++}`,
  atMs: DAY + minute * MINUTE,
  linkId: 'l',
  direction: 'heard',
  port: 0,
  origin: 'kiss',
  rawHex: toHex(encodeFrame(parseMonitorText(line) as Ax25Frame)),
  stored: true,
  ...more,
});
const CALL = 'QH6WXA-13>APZMPK';

it('telemetry by its own definitions, wherever they stand among the frames; losses by its numbers', () => {
  const { telemetry, lost, title } = stationSeries([
    record(0, `${CALL}:T#001,240,100,000,000,000,00000000`),
    record(10, `${CALL}:T#004,220,100,000,000,000,00000000`),
    record(11, `${CALL}::QH6WXA-13:PARM.Battery,Inside`),
    record(11, `${CALL}::QH6WXA-13:UNIT.V,deg C`),
    record(11, `${CALL}::QH6WXA-13:EQNS.0,0.05,1,0.001,-0.5,64`),
    record(11, `${CALL}::QH6WXA-13:BITS.11111111,Hut`),
  ]);
  // By hand: 0.05·240 + 1 = 13, 0.05·220 + 1 = 12; 0.001·100² − 0.5·100 + 64 = 24.
  expect(telemetry.slice(0, 2)).toEqual([
    {
      name: 'Battery',
      unit: 'V',
      points: [
        [DAY, 13],
        [DAY + 10 * MINUTE, 12],
      ],
    },
    {
      name: 'Inside',
      unit: 'deg C',
      points: [
        [DAY, 24],
        [DAY + 10 * MINUTE, 24],
      ],
    },
  ]);
  expect(title).toBe('Hut');
  expect(lost).toEqual({ came: 2, lost: 2 });
});

it('altitude and how fast it changes in the last ten minutes', () => {
  const at = (minute: number, feet: number): FrameRecord =>
    record(minute, `QH9BLN-11>APZMPK:!2936.00S/01124.00WO/A=00${feet}`);
  const { altitude, ascentMps } = stationSeries([at(0, 1000), at(1, 1000), at(20, 2000), at(25, 3000)]);
  expect(altitude?.points.map(([atMs]) => (atMs - DAY) / MINUTE)).toEqual([0, 20, 25]);
  // 1000 ft in five minutes: 304.8 m in 300 s (exact foot).
  expect(ascentMps).toBeCloseTo(1.016, 2);
  expect(stationSeries([at(0, 1000)]).altitude).toBeUndefined();
});

it('hours, relays and the paths that it asked for', () => {
  const { byHour, relays, paths } = stationSeries([
    record(59, `${CALL},WIDE1-1:>a`),
    record(60, `${CALL},QH1TOP*,WIDE2-1:>a`),
    record(61, `${CALL},QH1ANR,QH1TOP*:>b`),
    record(62, `${CALL},WIDE1-1:>c`),
    record(63, `${CALL}:>d`),
    record(64, `${CALL}:>e`, { direction: 'sent' }),
  ]);
  expect(byHour.slice(0, 2)).toEqual([1, 4]);
  expect(relays).toEqual([
    { call: 'QH1TOP', count: 2 },
    { call: 'QH1ANR', count: 1 },
  ]);
  expect(paths.map(({ path }) => path)).toEqual(['WIDE1-1', '']);
  expect(hoursInWords(byHour)).toBe('heard in 2 of 24 hours, most from 01:00 on');
  expect(hoursInWords(byHour.map(() => 0))).toBe('not heard on radio');
});

it('weather in the operator’s units, by the published factors', () => {
  const { weather } = stationSeries([
    record(0, `${CALL}:!2939.07S/01117.23W_090/010g020t050h80b10160`),
    record(5, `${CALL}:!2939.07S/01117.23W_090/010g020t068h80b10160`),
  ]);
  const figures = (units: 'metric' | 'imperial' | 'nautical') =>
    weatherCurves({ weather }, units).map(({ name, unit, points }) => [
      name,
      unit,
      Number(points[0]?.[1].toFixed(2)),
    ]);
  expect(figures('metric')).toEqual([
    ['Temperature', '°C', 10],
    ['Wind', 'm/s', 4.47],
    ['Gusts', 'm/s', 8.94],
    ['Pressure', 'hPa', 1016],
    ['Humidity', '%', 80],
  ]);
  expect(figures('imperial').slice(0, 4)).toEqual([
    ['Temperature', '°F', 50],
    ['Wind', 'mph', 10],
    ['Gusts', 'mph', 20],
    ['Pressure', 'inHg', 30],
  ]);
  expect(figures('nautical')[1]).toEqual(['Wind', 'kt', 8.69]);
});

it('by the day: the days between are there with nothing; of years the last one', () => {
  const heard = (minute: number): FrameRecord => record(minute, 'QH7CTA-9>APZMPK:>on the road');
  const { byDay } = stationSeries([heard(0), heard(2 * 1440 - 1), heard(3 * 1440), heard(3 * 1440 + 5)]);
  expect(byDay).toEqual([
    { day: '2026-04-18', count: 1 },
    { day: '2026-04-19', count: 1 },
    { day: '2026-04-20', count: 0 },
    { day: '2026-04-21', count: 2 },
  ]);
  expect(daysInWords(byDay)).toBe('heard on 3 of 4 days, most on 2026-04-21 (2 frames)');
  const long = stationSeries([heard(0), heard(800 * 1440)]).byDay;
  expect([long.length, long.at(-1)?.count, long[0]?.count]).toEqual([366, 1, 0]);
  expect(stationSeries([]).byDay).toEqual([]);
});
