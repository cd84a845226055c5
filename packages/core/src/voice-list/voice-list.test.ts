import { parseMonitorText } from '../ax25/monitor-text.js';
import type { Ax25Frame } from '../ax25/frame.js';
import { parseAprs } from '../aprs/parse.js';
import { hear, type Station } from '../stations/station.js';
import { STALE_MS, voiceList, voiceListCsv } from './voice-list.js';

const NOW = Date.UTC(2026, 3, 18, 12);
const HUT = { latitudeDeg: -29.632, longitudeDeg: -11.405 };

function station(line: string, heardAtMs = NOW): Station {
  const frame = parseMonitorText(line) as Ax25Frame;
  return hear(undefined, { frame, report: parseAprs(frame.info, frame.destination), heardAtMs, frameId: '' });
}
const REPEATER = 'QH1ANR>APZMPK:;145.675  *181200z2933.63S/01115.72WrT094 -060 R25k net Wed 19:00';

it('a repeater object: frequency, shift, the cut tone completed to the standard one, range and what it says', () => {
  expect(voiceList([station(REPEATER)], { nowMs: NOW, from: HUT })).toEqual([
    {
      name: '145.675',
      receiveMHz: 145.675,
      shiftKHz: -600,
      kind: 'repeater',
      toneHz: 94.8,
      toneSquelch: false,
      narrow: false,
      rangeKm: 25,
      words: expect.stringContaining('net Wed 19:00') as string,
      position: expect.anything() as object,
      distanceKm: expect.closeTo(15.9, 0) as number,
      bearingDeg: expect.any(Number) as number,
      heardAtMs: NOW,
      isStale: false,
    },
  ]);
});

it.each([
  ['no shift: simplex', '145.500MHz on the ridge', 'simplex', 0],
  ['a tone alone makes no repeater', '145.500MHz T094 on the ridge', 'simplex', 0],
  ['a shift does', '145.500MHz T094 +060 on the ridge', 'repeater', 600],
])('%s', (_, words, kind, shiftKHz) => {
  const [channel] = voiceList([station(`QH7CTE-9>APZMPK:!2937.92S/01124.30W>${words}`)], { nowMs: NOW });
  expect(channel).toMatchObject({ kind, shiftKHz, receiveMHz: 145.5 });
});

it('whoever listens on another frequency than he sends on is called there', () => {
  const split = { ...station(REPEATER), frequency: { frequencyMHz: 446.1, receiveMHz: 439.1 } };
  expect(voiceList([split], { nowMs: NOW })[0]).toMatchObject({ shiftKHz: -7000, kind: 'repeater' });
});

it('a gateway tells its packet channel, which is none for voice', () => {
  expect(
    voiceList([station('QH5OST-10>APZMPK:!2931.93SW01118.41W&144.875MHz gate')], { nowMs: NOW }),
  ).toEqual([]);
});

it('a tone that is off is none', () => {
  const off = { ...station(REPEATER), frequency: { frequencyMHz: 145.5, toneHz: 88.5, toneOff: true } };
  expect(voiceList([off], { nowMs: NOW })[0]?.toneHz).toBeUndefined();
});

it('nearest first, without a place last; stale after two hours, gone after a day', () => {
  const near = station('QH7CTE-9>APZMPK:!2937.92S/01124.30W>145.500MHz', NOW - STALE_MS);
  const stale = { ...near, name: 'B', heardAtMs: NOW - STALE_MS - 1 };
  const nowhere = station('QH9BLN-11>APZMPK:>145.400MHz talks');
  const gone = { ...near, name: 'C', heardAtMs: NOW - 86_400_001 };
  const { position: _, ...placeless } = { ...near, name: 'D' };
  const list = voiceList([placeless, gone, station(REPEATER), stale, near, nowhere], {
    nowMs: NOW,
    from: HUT,
  });
  expect(list.map(({ name, isStale }) => [name, isStale])).toEqual([
    ['B', true],
    ['QH7CTE-9', false],
    ['145.675', false],
    ...(nowhere.frequency ? [['QH9BLN-11', false]] : []),
    ['D', false],
  ]);
  expect(voiceList([station('QH7CTA-9>APZMPK:>no channel')], { nowMs: NOW })).toEqual([]);
});

it('as CSV in plain columns', () => {
  const csv = voiceListCsv(voiceList([station(REPEATER)], { nowMs: NOW }));
  expect(csv.split('\r\n')[0]).toBe(
    'name,receive_mhz,transmit_mhz,shift_khz,tone_hz,tone_on_receive,code,width,notes',
  );
  // What a stranger announces is no formula in anybody’s table; a shift is a number all the same.
  const hostile = REPEATER.replace('net Wed', '=1+1');
  const [, row = ''] = voiceListCsv(voiceList([station(hostile)], { nowMs: NOW })).split('\r\n');
  expect(row).not.toMatch(/,"?=/);
  expect(row).toContain(',-600,');
  expect(csv.split('\r\n')[1]).toMatch(/^145\.675,145\.67500,145\.07500,-600,94\.8,no,,wide,/);
});
