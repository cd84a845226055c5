import { factsOf } from './station-note';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView } from '@mistpeak/contract/station';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { toHex } from '@mistpeak/core/bits/octets';
import { coastsOfTheWorld } from '../../pieces/map/coasts';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { readRecord } from '../../live/views';
import { coverings } from '../../pieces/map/covering';
import { hopsOf } from '../../pieces/map/way-layer';
import { mix } from '../../pieces/map/land-layers';
import { selectionOfFrame, wayOf } from './selection';
import { runsOf } from '../../pieces/map/track-layer';
import { carriedOn } from '../../live/tracks';
import { heardBars, waysOf } from './ways';

const MINUTE_MS = 60_000;
const START_MS = Date.UTC(2026, 9, 12, 14);

let last = 0;
const record = (line: string, more: Partial<FrameRecord> = {}): FrameRecord => ({
  id: `air ${last++}`,
  atMs: START_MS,
  linkId: 'l',
  direction: 'heard',
  port: 0,
  origin: 'kiss',
  rawHex: toHex(encodeFrame(parseMonitorText(line) as Ax25Frame)),
  stored: true,
  ...more,
});
const station = (name: string, more: Partial<StationView> = {}): StationView => ({
  name,
  kind: 'station',
  sender: name,
  heardAtMs: START_MS,
  frameId: 'f',
  count: 1,
  hops: 0,
  repeaters: [],
  ...more,
});
const OPERATOR = {
  call: 'QH4MPK',
  position: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
} as OperatorView;
const HEAD = { latitudeDeg: -29.56, longitudeDeg: -11.26 };
const TWO_HOPS = 'QH8CLA-7>APZMPK,QH1TOP,WIDE1,QH1ANR,WIDE2*:!2930.85S/01132.72W[team';

describe('the facts of a station', () => {
  const { position: _, ...nowhere } = OPERATOR;
  it.each([
    ['both places known', { position: HEAD }, OPERATOR, /16 km|17 km/],
    ['no place told', {}, OPERATOR, /no place told/],
    ['my own place not said', { position: HEAD }, nowhere as OperatorView, /say your place in Settings/],
    ['neither', {}, nowhere as OperatorView, /no place told/],
  ])('%s', (_, more, operator, words) => {
    const facts = factsOf(
      station('QH7CTA-9', more),
      { ...operator, units: 'metric', coordinates: 'decimal' },
      START_MS,
    );
    expect(facts.join(' · ')).toMatch(words);
    expect(facts.filter((fact) => /place/.test(fact)).length).toBeLessThanOrEqual(1);
  });
});

describe('plates in one another’s place', () => {
  const plate = (name: string, x: number, rank: number) => ({ name, x, y: 0, rank });

  it('the highest tells how many it covers, the covered keep silent, those alone are left out', () => {
    const found = coverings([plate('a', 0, 1), plate('b', 5, 3), plate('c', 9, 2), plate('d', 100, 1)], 10);
    expect([...found].sort()).toEqual([
      ['a', -1],
      ['b', 2],
      ['c', -1],
    ]);
  });

  it('a row of plates, each near the next, is not one heap', () => {
    const found = coverings([plate('a', 0, 3), plate('b', 8, 2), plate('c', 16, 1)], 10);
    expect([...found]).toEqual([
      ['b', -1],
      ['a', 1],
    ]);
  });
});

describe('the way of a frame', () => {
  const known = new Map([['QH1ANR', station('QH1ANR', { position: HEAD })]]);

  it('goes from its own place over who repeated it to me', () => {
    const way = wayOf(record(TWO_HOPS), known, OPERATOR);
    expect(way.map(({ call }) => call)).toEqual(['QH8CLA-7', 'QH1TOP', 'QH1ANR', 'me']);
    expect(way[0]?.position?.latitudeDeg).toBeCloseTo(-29.514, 3);
    expect(way[1]?.position).toBeUndefined();
  });

  it('is drawn broken past a repeater whose place is not known', () => {
    const hops = hopsOf(wayOf(record(TWO_HOPS), known, OPERATOR));
    expect(hops.map(({ isBroken }) => isBroken)).toEqual([true, false]);
  });

  it('of an object begins at its sender, not at the object', () => {
    const line = 'QH1ANR>APZMPK:;145.675  *121400z2930.00S/01130.00WrT094';
    expect(wayOf(record(line), known, OPERATOR)[0]).toEqual({ call: 'QH1ANR', position: HEAD });
  });

  it('is none for what was sent from here, or not read', () => {
    expect(wayOf(record(TWO_HOPS, { direction: 'sent' }), known, OPERATOR)).toEqual([]);
    expect(wayOf(record(TWO_HOPS, { rawHex: '00ff' }), known, OPERATOR)).toEqual([]);
    expect(wayOf(undefined, known, OPERATOR)).toEqual([]);
    expect(hopsOf([])).toEqual([]);
  });
});

describe('one selection', () => {
  it('of a frame is of its station, of an object’s frame the object', () => {
    expect(selectionOfFrame(record(TWO_HOPS))).toMatchObject({ station: 'QH8CLA-7' });
    const object = record('QH3PRT-10>APZMPK:;H1       *121400z2930.00S/01130.00W;hide');
    expect(selectionOfFrame(object)).toEqual({ frameId: object.id, station: 'H1', record: object });
    expect(selectionOfFrame(record(TWO_HOPS, { rawHex: '00' })).station).toBeUndefined();
  });
});

describe('how it reached us', () => {
  const frames = [
    record('QH7CTC-9>APZMPK,WIDE1-1:>a'),
    record('QH7CTC-9>APZMPK,QH1ANR,WIDE1*:>b', { atMs: START_MS + 11 * MINUTE_MS }),
    record('QH7CTC-9>APZMPK,QH1ANR,WIDE1*:>c', { atMs: START_MS + 12 * MINUTE_MS }),
    record(TWO_HOPS, { atMs: START_MS + 19 * MINUTE_MS }),
    record('QH7CTC-9>APZMPK:>own', { direction: 'sent' }),
    record('QH7CTC-9>APZMPK:>broken', { rawHex: 'ff' }),
  ];

  it('is counted by way, the most used first', () =>
    expect(waysOf(frames)).toEqual([
      { way: 'QH1ANR', count: 2 },
      { way: '', count: 1 },
      { way: 'QH1TOP › QH1ANR', count: 1 },
    ]));

  it('and by time and hops; what lies outside of the bars is left out', () => {
    const bars = heardBars(frames, START_MS + 15 * MINUTE_MS, 10 * MINUTE_MS, 2);
    expect(bars).toEqual([
      { fromMs: START_MS, direct: 1, oneHop: 0, moreHops: 0 },
      { fromMs: START_MS + 10 * MINUTE_MS, direct: 0, oneHop: 2, moreHops: 1 },
    ]);
    expect(
      heardBars(frames, START_MS + 500 * MINUTE_MS, MINUTE_MS, 3).every(({ direct }) => direct === 0),
    ).toBe(true);
  });
});

describe('tracks', () => {
  const track = { name: 'QH7CTC-9', points: [[START_MS, 1, 2]] as const };
  const at = (ms: number, latitudeDeg: number) =>
    new Map([
      ['QH7CTC-9', station('QH7CTC-9', { position: { latitudeDeg, longitudeDeg: 2 }, positionAtMs: ms })],
    ]);

  it('grow by each new place, and stay the very same where nobody moved', () => {
    expect(carriedOn([track], at(START_MS + 1, 1.5))[0]?.points).toEqual([
      [START_MS, 1, 2],
      [START_MS + 1, 1.5, 2],
    ]);
    const tracks = [track];
    expect(carriedOn(tracks, at(START_MS + 1, 1))).toBe(tracks);
    expect(carriedOn(tracks, at(START_MS - 1, 9))).toBe(tracks);
    expect(carriedOn(tracks, new Map([['QH7CTC-9', station('QH7CTC-9')]]))).toBe(tracks);
  });

  it('begin with a station heard for the first time', () =>
    expect(carriedOn([], at(START_MS, 3))).toEqual([{ name: 'QH7CTC-9', points: [[START_MS, 3, 2]] }]));
});

describe('the coasts of the world', () => {
  const { coordinates } = coastsOfTheWorld().geometry;

  it('are closed rings that keep to the sheet', () => {
    expect(coordinates.length).toBeGreaterThan(1000);
    const rings = coordinates.flat();
    expect(rings.filter((ring) => String(ring[0]) !== String(ring.at(-1)))).toEqual([]);
    const isOnSheet = ([lon = NaN, lat = NaN]: number[]): boolean =>
      Math.abs(lon) <= 180.001 && Math.abs(lat) <= 85;
    expect(rings.flat().filter((point) => !isOnSheet(point))).toEqual([]);
  });

  it('none of them jumps across the map at the antimeridian', () => {
    const steps = coordinates.flat().flatMap((ring) =>
      ring.slice(1).map((point, i) => {
        const before = ring[i] as number[];
        const isAlongPole = Math.abs(point[1] as number) > 84 && Math.abs(before[1] as number) > 84;
        return isAlongPole ? 0 : Math.abs((point[0] as number) - (before[0] as number));
      }),
    );
    expect(steps.reduce((most, step) => Math.max(most, step), 0)).toBeLessThan(30);
  });
});

it('colours mix by shares', () => {
  expect([
    mix('#000000', '#ffffff', 0),
    mix('#000000', '#ff8000', 0.5),
    mix('#102030', '#102030', 1),
  ]).toEqual(['rgb(0 0 0)', 'rgb(128 64 0)', 'rgb(16 32 48)']);
});

it('a track is cut where its places come by another way, and hangs together', () => {
  const [a, b, c, d] = [
    [1, 0, 0],
    [2, 0, 1],
    [3, 0, 2, true],
    [4, 0, 3],
  ] as const;
  expect(runsOf([a, b, c, d])).toEqual([
    { byInternet: false, run: [a, b] },
    { byInternet: true, run: [b, c] },
    { byInternet: false, run: [c, d] },
  ]);
  expect(runsOf([])).toEqual([]);
});

it('of a line of the internet side only what stands before its q construct is a hop', () => {
  const record: FrameRecord = {
    id: 'line',
    atMs: 0,
    linkId: 'internet',
    direction: 'heard',
    port: 0,
    origin: 'internet',
    rawHex: '',
    line: 'QH9BLN-11>APZMPK,QH1ANR*,WIDE2-1,qAR,QH3PRT-10:>up',
    stored: true,
  };
  const { view, bits } = readRecord(record);
  expect(isMalformed(view) ? view : [view.path.repeaters, view.path.entries.length, bits]).toEqual([
    ['QH1ANR'],
    2,
    0,
  ]);
});
