import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { toHex } from '@mistpeak/core/bits/octets';
import { placeAt } from '@mistpeak/core/geo/position';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { StationView } from '@mistpeak/contract/station';
import { filterOf, isNothingAsked, NO_FILTER, queryOf } from './log-filter';
import { groupsOf, isSameGroup, wayOfCopy } from './log-rows';
import { approachWords, directionWords, onTheRoad } from './road';
import { reachWords } from './road-view';
import { settingWords } from './voice-view';

const NOW = Date.UTC(2026, 3, 18, 12);
const HUT = { latitudeDeg: -29.632, longitudeDeg: -11.405 };
let last = 0;
const record = (line: string, atMs = NOW, more: Partial<FrameRecord> = {}): FrameRecord => ({
  id: `listening ${String(last++).padStart(4, '0')}`,
  atMs,
  linkId: 'l',
  direction: 'heard',
  port: 0,
  origin: 'kiss',
  rawHex: toHex(encodeFrame(parseMonitorText(line) as Ax25Frame)),
  stored: true,
  ...more,
});

describe('the rows of the log', () => {
  const first = record('QH7CTA-9>APZMPK,WIDE1-1:>hello', NOW);
  const other = record('QH8CLA-7>APZMPK:>walking', NOW + 500);
  const copy = record('QH7CTA-9>APZMPK,QH1TOP*:>hello', NOW + 900);
  const unread = record('QH8CLA-7>APZMPK:>x', NOW + 700, { rawHex: '00', trouble: 'not AX.25' });

  it('copies are one group at the time of the first, newest group first; what could not be read stands alone', () => {
    const groups = groupsOf([first, other, unread, copy], true);
    expect(groups.map(({ copies }) => copies)).toEqual([[unread], [other], [first, copy]]);
    expect([first, copy, unread].map(wayOfCopy)).toEqual(['direct', 'QH1TOP', 'not read']);
  });

  it('unfolded each stands by itself', () => {
    expect(groupsOf([first, copy], false).map(({ first: one }) => one)).toEqual([copy, first]);
  });

  it('a group is another one with a copy more, or one that is stored now', () => {
    const group = { first, copies: [first] };
    expect(isSameGroup(group, { first, copies: [first] })).toBe(true);
    expect(isSameGroup(group, { first, copies: [first, copy] })).toBe(false);
    expect(isSameGroup(group, { first, copies: [{ ...first, stored: false }] })).toBe(false);
  });
});

describe('a filter as it is written', () => {
  it('asks for nothing while its fields are empty, or hold no number', () => {
    expect(isNothingAsked(NO_FILTER)).toBe(true);
    expect(isNothingAsked({ ...NO_FILTER, words: '  ', withinKm: 'far' })).toBe(true);
    expect(isNothingAsked({ ...NO_FILTER, withinKm: '0' })).toBe(false);
  });

  it('becomes core’s, and the server’s question', () => {
    const written = {
      words: ' cart a ',
      kind: 'weather',
      way: 'direct',
      station: 'qh7',
      withinKm: '12,5',
      misuse: true,
    } as const;
    expect(filterOf(written)).toEqual({
      words: 'cart a',
      kinds: ['weather'],
      ways: ['direct'],
      station: 'qh7',
      withinKm: 12.5,
      misuse: true,
    });
    expect(queryOf(written)).toBe(
      'kinds=weather&ways=direct&words=cart+a&station=qh7&withinKm=12.5&misuse=true',
    );
  });
});

describe('on the road', () => {
  const here = { position: HUT, courseDeg: 0, speedMps: 0 };
  const station = (name: string, km: number, more: Partial<StationView> = {}): StationView => ({
    name,
    kind: 'station',
    sender: name,
    heardAtMs: NOW,
    radioAtMs: NOW,
    frameId: '',
    count: 1,
    hops: 0,
    repeaters: [],
    position: placeAt(HUT, km, 0),
    positionAtMs: NOW,
    ...more,
  });
  const seen = (...stations: StationView[]) => onTheRoad(stations, here, { nowMs: NOW, ownCall: 'QH4MPK' });

  it('nearest first: others, on radio, within the hour, with a place', () => {
    const { position: _, ...placeless } = station('F', 1);
    const { radioAtMs: __, ...byInternet } = station('G', 1);
    const found = seen(
      station('A', 5),
      station('B', 2),
      station('C', 1, { radioAtMs: NOW - 3_600_001 }),
      station('D', 1, { kind: 'object' }),
      station('E', 1, { symbol: { table: 'W', code: '&' } }),
      station('QH4MPK-9', 1),
      placeless,
      byInternet,
      station('H', 9, { radioAtMs: NOW - 3_600_000 }),
    );
    expect(found.map(({ station: { name } }) => name)).toEqual(['B', 'A', 'H']);
  });

  it.each([
    ['comes towards you, passes in 6 min at 800 m', 3.7, { courseDeg: 180 - 12.49, speedMps: 10 }],
    ['comes towards you, passes within a minute at 0 m', 0.2, { courseDeg: 180, speedMps: 10 }],
    ['parts from you', 3, { courseDeg: 0, speedMps: 10 }],
    ['keeps its distance', 3, { courseDeg: 90, speedMps: 10 }],
    ['comes nearer', 30, { courseDeg: 180, speedMps: 10 }],
    ['stands', 3, {}],
    ['goes, nobody knows where', 3, { courseDeg: 180, speedMps: 10, positionAtMs: NOW - 600_001 }],
  ])('%s', (words, km, more) => {
    const [one] = seen(station('A', km, more));
    expect(one && approachWords(one, 'metric')).toBe(words);
  });

  it('which way: a direction, unless it is where we are', () => {
    const wayOf = (km: number): string | undefined => {
      const [one] = seen(station('A', km));
      return one && directionWords(one, 'metric');
    };
    expect([wayOf(3), wayOf(0.031), wayOf(0.029), wayOf(0)]).toEqual([
      '000°, stands',
      '000°, stands',
      'where you are',
      'where you are',
    ]);
  });

  it('reach is told by its chance, and where only flat ground is known', () => {
    expect([0.8, 0.79, 0.4, 0.39].map((chance) => reachWords(chance, true))).toEqual([
      'in direct voice reach',
      'perhaps in voice reach',
      'perhaps in voice reach',
      'not in direct voice reach',
    ]);
    expect(reachWords(0.9, false)).toBe('in direct voice reach, over flat ground');
  });
});

it('what else a voice radio is set to', () => {
  const channel = {
    name: '',
    receiveMHz: 145.675,
    kind: 'repeater',
    narrow: false,
    words: '',
    heardAtMs: 0,
    isStale: false,
  } as const;
  expect(settingWords({ ...channel, shiftKHz: -600, toneHz: 94.8, toneSquelch: true })).toBe(
    '−0.6 MHz, tone 94.8 Hz both ways',
  );
  expect(settingWords({ ...channel, shiftKHz: 0, toneHz: 1750, narrow: true })).toBe('burst 1750 Hz, narrow');
  expect(settingWords({ ...channel, shiftKHz: 7600, dcs: '023' })).toBe('+7.6 MHz, code 023');
});
