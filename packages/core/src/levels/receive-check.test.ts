import type { Heard } from './heard.js';
import { BOUNDS, judgeKnob, judgeReceive, WINDOW, type Finding } from './receive-check.js';
import type { HeardPacket } from './sound-watch.js';

const packet = (transmitter: string, more: Partial<HeardPacket> = {}): HeardPacket => ({
  atMs: 1000,
  lastsMs: 500,
  raw: new Uint8Array(),
  transmitter,
  levelDbfs: -16,
  peakDbfs: -15,
  clippedShare: 0,
  repairs: 0,
  twistDb: 0,
  preambleMs: 300,
  ebN0Db: 20,
  ...more,
});

const STATIONS = ['QH4MPK-7', 'QH5VEL-10', 'QH7CTB-9'] as const;
const all = (more: Partial<HeardPacket>): HeardPacket[] => STATIONS.map((call) => packet(call, more));

const GOOD: Heard = {
  seconds: 60,
  packets: all({}),
  carriers: 3,
  unread: 0,
  quietShare: 0,
  voiceShare: 0,
  noiseDbfs: -20,
  peakDbfs: -10,
  clippedShare: 0,
  offset: 0,
  tones: [],
  bells: 0,
  noiseTiltDb: -5,
};
const SILENT = { ...GOOD, packets: [], carriers: 0 };

const kindsOf = (more: Partial<Heard>): Finding['kind'][] =>
  judgeReceive({ ...GOOD, ...more }).findings.map(({ kind }) => kind);
const findingOf = (more: Partial<Heard>): Finding =>
  judgeReceive({ ...GOOD, ...more }).findings[0] as Finding;
const LITTLE = 0.001;

it('a good level: one sentence, the number, nothing to turn', () => {
  expect(judgeReceive(GOOD)).toMatchObject({
    sentence: 'The level is in the window.',
    number: '−16 dBFS, 3 packets of 3 stations',
    findings: [],
    isInWindow: true,
    levelDbfs: -16,
    twistDb: 0,
  });
});

describe('each verdict begins just beyond its bound', () => {
  it.each<[Finding['kind'], (at: number) => Partial<Heard>, number, 'above' | 'below']>([
    ['clipping', (clippedShare) => ({ packets: all({ clippedShare }) }), BOUNDS.clippedShare, 'above'],
    ['under', (levelDbfs) => ({ packets: all({ levelDbfs }) }), WINDOW.lowest, 'below'],
    ['over', (levelDbfs) => ({ packets: all({ levelDbfs }) }), WINDOW.highest, 'above'],
    ['under', (noiseDbfs) => ({ ...SILENT, noiseDbfs }), WINDOW.lowest, 'below'],
    ['late', (preambleMs) => ({ packets: all({ preambleMs }) }), BOUNDS.lateMs, 'below'],
    ['hum', (humDbfs) => ({ humHz: 50, humDbfs }), -16 - BOUNDS.humBelowPacketsDb, 'above'],
    ['hum', (humDbfs) => ({ ...SILENT, humHz: 60, humDbfs }), BOUNDS.humDbfs, 'above'],
    ['offset', (offset) => ({ offset }), BOUNDS.offset, 'above'],
    ['offset', (offset) => ({ offset: -offset }), BOUNDS.offset, 'above'],
    ['not decoded', (share) => ({ carriers: 100, unread: 100 * share }), BOUNDS.unreadShare, 'above'],
    ['other sounds', (voiceShare) => ({ voiceShare }), BOUNDS.voiceShare, 'above'],
    ['narrow', (noiseTiltDb) => ({ noiseTiltDb }), BOUNDS.narrowDb, 'below'],
  ])('%s', (kind, heardAt, bound, side) => {
    const beyond = side === 'above' ? LITTLE : -LITTLE;
    expect(kindsOf(heardAt(bound))).not.toContain(kind);
    expect(kindsOf(heardAt(bound + beyond))).toContain(kind);
  });

  it.each<[Finding['kind'], (at: number) => Partial<Heard>, number]>([
    ['nothing', (quietShare) => ({ ...SILENT, quietShare }), BOUNDS.quietShare],
    ['other sounds', (bells) => ({ bells }), BOUNDS.bells],
    [
      'tone in the band',
      (dbfs) => ({ tones: [{ hz: 3000, dbfs, when: 'always' }] }),
      -16 - BOUNDS.toneBelowPacketsDb,
    ],
    [
      'tones differ',
      (twistDb) => ({ packets: all({ twistDb }) }),
      BOUNDS.emphasisDb - BOUNDS.emphasisWithinDb,
    ],
    [
      'tones differ',
      (down) => ({ packets: all({ twistDb: -down }) }),
      BOUNDS.emphasisDb - BOUNDS.emphasisWithinDb,
    ],
  ])('%s, at the bound itself', (kind, heardAt, bound) => {
    expect(kindsOf(heardAt(bound - LITTLE))).not.toContain(kind);
    expect(kindsOf(heardAt(bound))).toContain(kind);
  });
});

describe('where nothing is decoded', () => {
  it('silence, noise and unread packets are told apart', () => {
    expect(kindsOf({ ...SILENT, quietShare: 1 })).toEqual(['nothing']);
    expect(kindsOf(SILENT)).toEqual(['noise only']);
    expect(kindsOf({ ...SILENT, carriers: 4, unread: 4 })).toEqual(['nothing decoded']);
    expect(judgeReceive(SILENT).isInWindow).toBe(false);
  });

  it('all of the sound is asked for clipping', () => {
    expect(kindsOf({ ...SILENT, clippedShare: 0.01 })).toEqual(['noise only', 'clipping']);
    expect(kindsOf({ clippedShare: 0.01 })).toEqual([]);
  });
});

it('over and under say by how much, and how far it is to the middle', () => {
  expect(findingOf({ packets: all({ levelDbfs: -39 }) })).toMatchObject({
    words: '9 dB under the window.',
    turn: 'Turn the volume up by 23 dB, or the gain of the input.',
  });
  expect(findingOf({ packets: all({ levelDbfs: -3 }) })).toMatchObject({
    words: '5 dB over the window.',
    turn: 'Turn the volume down by 13 dB.',
  });
  expect(judgeReceive({ ...GOOD, packets: all({ levelDbfs: -3 }) }).isInWindow).toBe(false);
});

it('who sends much counts no more than others', () => {
  const loud = Array.from({ length: 20 }, () => packet('QH7CTC-9', { levelDbfs: -4 }));
  expect(judgeReceive({ ...GOOD, packets: [...loud, ...all({})] }).levelDbfs).toBe(-16);
});

describe('tones', () => {
  const twisted = (...twists: number[]): Partial<Heard> => ({
    packets: twists.map((twistDb, i) => packet(`QH${i}AA`, { twistDb })),
  });

  it('weaker and stronger highs have their own cause', () => {
    expect(findingOf(twisted(-5, -5.2, -5.4))).toMatchObject({
      kind: 'tones differ',
      number: '−5 dB, median of 3 stations',
    });
    expect(findingOf(twisted(-5, -5.2, -5.4)).words).toContain('5 dB weaker');
    expect(findingOf(twisted(-5, -5.2, -5.4)).turn).toContain('de-emphasised audio');
    expect(findingOf(twisted(5, 5.2, 5.4)).words).toContain('stronger');
    expect(findingOf(twisted(5, 5.2, 5.4)).turn).toContain('flat audio');
  });

  it('more than emphasis is a filter besides, from 7 dB on', () => {
    expect(findingOf(twisted(-7, -7, -7)).words).not.toContain('more than emphasis');
    expect(findingOf(twisted(-7.1, -7.1, -7.1)).words).toContain('more than emphasis');
    expect(findingOf(twisted(-8, -8, -8)).turn).toContain('takes highs away');
    expect(findingOf(twisted(8, 8, 8)).turn).toContain('takes lows away');
  });

  it('of two stations, or stations apart, nothing is said of the receiver', () => {
    expect(findingOf(twisted(-5, -5))).toMatchObject({ kind: 'tones differ by sender' });
    expect(findingOf(twisted(-5)).words).toContain('only 1 station was heard');
    expect(findingOf(twisted(-5, -5)).turn).toContain('three stations');
    expect(findingOf(twisted(-5, -5, -1.9)).words).toContain('3 dB apart');
    expect(findingOf(twisted(-5, -5, -2)).kind).toBe('tones differ');
    expect(kindsOf(twisted(0, 0))).toEqual([]);
  });

  it('of five, the oddest one does not count', () => {
    expect(findingOf(twisted(-5, -5, -5, -5, 2)).kind).toBe('tones differ');
    expect(findingOf(twisted(-5, -5, -5, 2)).kind).toBe('tones differ by sender');
  });

  it('packets in too much noise do not count', () => {
    const noisy = (ebN0Db: number): Finding['kind'][] => kindsOf({ packets: all({ twistDb: -5, ebN0Db }) });
    expect(noisy(BOUNDS.clearEbN0Db)).toEqual(['tones differ']);
    expect(noisy(BOUNDS.clearEbN0Db - LITTLE)).toEqual([]);
  });
});

it('late beginnings are told of three stations or more, with what is missing', () => {
  expect(findingOf({ packets: all({ preambleMs: 20 }) }).words).toBe(
    'The first 280 ms of every packet are missing.',
  );
  expect(kindsOf({ packets: all({ preambleMs: 20 }).slice(1) })).toEqual([]);
});

it('carriers are counted only from five on', () => {
  expect(kindsOf({ carriers: 4, unread: 3 })).toEqual([]);
  expect(findingOf({ carriers: 5, unread: 3 }).words).toBe('Of 5 packets on the channel 2 were decoded.');
});

it('a keying tone is told from a whistle; of several the loudest counts', () => {
  const tones = [
    { hz: 400, dbfs: -40, when: 'always' },
    { hz: 3300, dbfs: -30, when: 'with packets' },
  ] as const;
  expect(findingOf({ tones }).words).toBe(
    'A tone of 3300 Hz stands beside the packets: a keying tone leaks.',
  );
  expect(findingOf({ tones }).number).toBe('−30 dBFS, 14 dB below the packets');
  expect(findingOf({ tones: tones.slice(0, 1) }).words).toBe('A tone of 400 Hz stays on.');
  expect(kindsOf({ voiceShare: 1, tones: [{ hz: 400, dbfs: -60, when: 'always' }] })).toEqual([]);
});

it('the knob: noise with noise, packets with packets, and a little is nothing', () => {
  const noise = (noiseDbfs: number): Heard => ({ ...SILENT, noiseDbfs });
  expect(judgeKnob(noise(-20), noise(-20 + BOUNDS.followsDb))).toBeUndefined();
  expect(judgeKnob(noise(-20), noise(-20 - BOUNDS.followsDb))).toBeUndefined();
  expect(judgeKnob(noise(-20), noise(-18.6))).toMatchObject({
    kind: 'knob without effect',
    number: '+1.4 dB after turning it',
  });
  const { noiseDbfs: _, ...quiet } = GOOD;
  expect(judgeKnob(quiet, { ...quiet, packets: all({ levelDbfs: -16.4 }) })?.number).toBe(
    '−0.4 dB after turning it',
  );
  expect(judgeKnob(quiet, { ...quiet, packets: [] })).toBeUndefined();
});
