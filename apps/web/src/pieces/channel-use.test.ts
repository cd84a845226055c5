import { noteOnAir, type ChannelPast } from '@mistpeak/core/stations/channel-past';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView } from '@mistpeak/contract/link';
import { formatAge, formatSeconds } from './age';
import { channelLoad, channelUse, LANES_SPAN_MS, onAir } from './channel-use';
import { describeLink } from './link-words';

const LINK = {
  id: 'l',
  phase: 'hearing',
  settings: { airRate: 1200, txDelayMs: 500 },
  standIn: false,
  heldElsewhere: false,
} as LinkView;
/** 297 bits on the air, worked out from the worked example of the standard: 247.5 ms at 1200 Bd. */
const FRAME: FrameRecord = {
  id: 'f',
  atMs: 10_000,
  linkId: 'l',
  direction: 'heard',
  port: 0,
  origin: 'kiss',
  rawHex: '82a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f03e6869',
  stored: true,
};

describe('when a frame held the channel', () => {
  it('heard: up to its stamp; ours: from it, with TXDELAY', () => {
    expect(onAir(FRAME, LINK)).toEqual({ fromMs: 9752.5, toMs: 10_000 });
    expect(onAir({ ...FRAME, direction: 'sent' }, LINK)).toEqual({ fromMs: 10_000, toMs: 10_747.5 });
  });

  it('the share of five minutes', () => {
    const past = noteOnAir([], { atMs: FRAME.atMs, lane: 1, airMs: 247.5 });
    expect(channelUse(past, 11_000)).toBeCloseTo((247.5 + 300) / LANES_SPAN_MS, 10);
    expect(channelUse(undefined, 11_000)).toBe(0);
  });
});

describe('words', () => {
  it.each([
    [-5, '0 s'],
    [59_000, '59 s'],
    [61_000, '1 min'],
    [7_300_000, '2 h'],
    [200_000_000, '2 d'],
  ])('%i ms is %s', (ms, words) => expect(formatAge(ms)).toBe(words));

  it('seconds', () => expect([formatSeconds(740), formatSeconds(12_345)]).toEqual(['0.74 s', '12.3 s']));

  it.each([
    [{ phase: 'closed' }, 'closed', 'quiet'],
    [{ phase: 'silent' }, 'open and silent', 'look'],
    [{}, 'hearing, 3 s ago', 'proved'],
    [
      { phase: 'failed', failure: 'refused', retryAtMs: 5000 },
      'failed: the far end refused the connection',
      'stop',
    ],
    [{ heldElsewhere: true }, 'held elsewhere', 'look'],
  ] as [Partial<LinkView>, string, string][])('a link %j is %s', (more, word, tone) => {
    expect(describeLink({ ...LINK, ...more }, 1000, 4000)).toMatchObject({ word, tone });
  });
});

describe('the load of the channel', () => {
  it('is not known where nothing was heard', () => {
    expect(channelLoad([], undefined, LINK, 10_000)).toBeUndefined();
    expect(channelLoad([{ ...FRAME, direction: 'sent' }], undefined, LINK, 10_000)).toBeUndefined();
  });

  it('has each sender’s rate, and the mean time of a frame with the usual TXDELAY', () => {
    const frames = [FRAME, { ...FRAME, id: 'g', atMs: 12_000 }];
    const past = frames.reduce<ChannelPast>(
      (so, { atMs }) => noteOnAir(so, { atMs, lane: 1, airMs: 247.5 }),
      [],
    );
    expect(channelLoad(frames, past, LINK, 12_000)).toEqual({
      use: (2 * (247.5 + 300)) / LANES_SPAN_MS,
      meanFrameMs: 547.5,
      senders: [{ framesPerSecond: 2000 / LANES_SPAN_MS }],
    });
  });
});
