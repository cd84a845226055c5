import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { toHex } from '@mistpeak/core/bits/octets';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { readSet, type OwnSet } from './own-set';
import { packetsOf } from './packets';

let lastId = 0;
const record = (atMs: number, line: string, direction: FrameRecord['direction'] = 'heard'): FrameRecord => ({
  id: `r${++lastId}`,
  atMs,
  linkId: 'link',
  direction,
  port: 0,
  origin: 'kiss',
  rawHex: toHex(encodeFrame(parseMonitorText(line) as Ax25Frame)),
  stored: true,
});

describe('packets of the log', () => {
  it('stand with their copies, newest first; the same words a minute later are another packet', () => {
    const packets = packetsOf([
      record(0, 'QH7CTA-9>APZMPK,WIDE2-1:!a'),
      record(900, 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'),
      record(950, 'QH4MPK-7>APZMPK:!mine', 'sent'),
      record(1000, 'QH7CTB-9>APZMPK:!b'),
      record(59_999, 'QH7CTA-9>APZMPK,QH1TOP,WIDE2*:!a'),
      record(60_000, 'QH7CTA-9>APZMPK,WIDE2-1:!a'),
    ]);
    expect(packets.map(({ records }) => records.map(({ atMs }) => atMs))).toEqual([
      [60_000],
      [1000],
      [0, 900, 59_999],
    ]);
  });

  it('leave out what could not be read', () =>
    expect(packetsOf([{ ...record(0, 'A>B:x'), rawHex: '0102', trouble: 'not AX.25' }])).toEqual([]));
});

const SET: OwnSet = {
  place: '29.6 S 11.4 W',
  frequencyMHz: 144.8,
  heightM: 2,
  powerW: 5,
  gainDbi: 2,
  feedLossDb: 1,
  clutterDb: 8,
  thresholdDbm: -113,
};

describe('the set as typed', () => {
  it('is taken in numbers, line and trees taken off the gain', () => {
    const ready = readSet(SET);
    expect('wrong' in ready ? ready.wrong : [ready.end, ready.places, ready.frequencyMHz]).toEqual([
      {
        position: { latitudeDeg: -29.6, longitudeDeg: -11.4 },
        heightM: 2,
        powerW: 5,
        gainDbi: -7,
        thresholdDbm: -113,
      },
      [{ latitudeDeg: -29.6, longitudeDeg: -11.4 }],
      144.8,
    ]);
  });

  it.each([
    ['place', 'nowhere'],
    ['frequencyMHz', 27.9],
    ['frequencyMHz', 450.1],
    ['heightM', 0.4],
    ['powerW', 0],
    ['gainDbi', undefined],
    ['feedLossDb', -1],
    ['clutterDb', 41],
    ['thresholdDbm', NaN],
  ] as const)('is refused where %s is %s, and says so at that field', (field, value) => {
    const ready = readSet({ ...SET, [field]: value });
    expect('wrong' in ready ? Object.keys(ready.wrong) : []).toEqual([field]);
  });

  it('of a track has its places, both ends among them, and no more than can be tried', () => {
    const points = Array.from({ length: 1000 }, (_, i) => [-29 - i / 1000, -11] as const);
    const ready = readSet({ ...SET, place: '', track: { name: 't', points } });
    const places = 'wrong' in ready ? [] : ready.places;
    expect(places).toHaveLength(24);
    expect([places[0]?.latitudeDeg, places.at(-1)?.latitudeDeg]).toEqual([-29, -29.999]);
  });
});
