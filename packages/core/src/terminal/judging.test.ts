import { throughput } from '../throughput/throughput.js';
import { causesOfNoAnswer, type CallFacts } from './no-answer.js';
import { ENOUGH_FRAMES, ENOUGH_OCTETS, judgeLink } from './quality.js';

const TERMS = {
  baud: 1200,
  txDelayMs: 300,
  txTailMs: 20,
  channelWaitMs: 300,
  digipeaters: 0,
  selective: false,
};

describe('how good the link is', () => {
  const counts = { framesSent: 40, framesResent: 0, octetsConfirmed: 4000, busyMs: 100_000 };
  const now = { packetOctets: 128, window: 4 };

  it('without repetitions nothing is lost', () => {
    const { frameLoss, octetsPerSecond, asSetOctetsPerSecond } = judgeLink(counts, TERMS, now);
    expect([frameLoss, octetsPerSecond]).toEqual([0, 40]);
    const paceOf = (octetsConfirmed: number) =>
      judgeLink({ ...counts, octetsConfirmed }, TERMS, now).octetsPerSecond;
    expect([paceOf(ENOUGH_OCTETS - 1), paceOf(ENOUGH_OCTETS)]).toEqual([undefined, 3]);
    expect(asSetOctetsPerSecond).toBe(throughput({ ...TERMS, frameLoss: 0 }, now));
  });

  // arithmetic: a tenth of frames of 128 octets sent again, one leg, no digipeater
  it('the share that was sent again is the loss of the reference frame', () => {
    expect(judgeLink({ ...counts, framesResent: 4 }, TERMS, now).frameLoss).toBeCloseTo(0.1, 6);
    // Shorter frames are lost less often: 16 + 64 octets of 16 + 128.
    const short = judgeLink({ ...counts, framesResent: 4 }, TERMS, { packetOctets: 64, window: 4 }).frameLoss;
    expect(short).toBeCloseTo(1 - 0.9 ** (144 / 80), 6);
    const twoLegs = judgeLink({ ...counts, framesResent: 4 }, { ...TERMS, digipeaters: 1 }, now).frameLoss;
    expect(twoLegs).toBeCloseTo(1 - Math.sqrt(0.9), 6);
  });

  it('advises what is at least a tenth faster, and only when enough was sent', () => {
    const bad = judgeLink({ ...counts, framesResent: 20 }, TERMS, { packetOctets: 256, window: 7 });
    expect(bad.advice?.words).toMatch(
      /^frames of \d+ octets.* would be about \d+ % faster where 50 % have to be sent again$/,
    );
    expect(bad.advice?.choice.packetOctets).toBeLessThan(256);
    expect(bad.bestOctetsPerSecond).toBeGreaterThan(1.1 * bad.asSetOctetsPerSecond);
    const few = { ...counts, framesSent: ENOUGH_FRAMES - 1, framesResent: 5 };
    expect(judgeLink(few, TERMS, { packetOctets: 256, window: 7 }).advice).toBeUndefined();
    expect(
      judgeLink({ ...few, framesSent: ENOUGH_FRAMES, framesResent: 6 }, TERMS, {
        packetOctets: 256,
        window: 7,
      }).advice,
    ).toBeDefined();
    expect(judgeLink(counts, TERMS, { packetOctets: 256, window: 7 }).advice).toBeUndefined();
  });

  it('says nothing of what was not', () => {
    expect(
      judgeLink({ framesSent: 0, framesResent: 0, octetsConfirmed: 0, busyMs: 0 }, TERMS, now),
    ).toMatchObject({ frameLoss: 0 });
    expect(judgeLink({ ...counts, framesResent: 400 }, TERMS, now).frameLoss).toBe(0.9);
  });
});

describe('why nobody answers', () => {
  const facts: CallFacts = {
    to: 'QH2HUT-1',
    via: [],
    wasEchoed: true,
    heardSince: 5,
    lastHeardAgoMs: 60_000,
    viaHeardAgoMs: [],
  };
  const first = (more: Partial<CallFacts>): string => causesOfNoAnswer({ ...facts, ...more })[0]?.cause ?? '';

  it.each([
    [{}, /does not answer on this SSID/],
    [{ lastHeardAgoMs: undefined }, /never heard here/],
    [{ lastHeardAgoMs: 2 * 3_600_000 }, /was heard 2 h ago/],
    [{ lastHeardAgoMs: 3 * 86_400_000 }, /was heard 3 days ago/],
    [{ wasEchoed: false }, /may not be on the air/],
    [{ heardSince: 0 }, /Nothing at all was heard/],
    [{ heardSince: 0, wasEchoed: false }, /Nothing at all was heard/],
    [
      { via: ['QH1ANR', 'QH1TOP'], viaHeardAgoMs: [1000, 3_600_001] },
      /^QH1TOP was not heard within the hour/,
    ],
    [
      { savedFrequencyMHz: 144.85, frequencyMHz: 144.8 },
      /listens on 144.850 MHz, and the link is set to 144.800/,
    ],
    [{ meant: 'QH2HUT-2', heardSince: 0 }, /QH2HUT-2 was heard, QH2HUT-1 never was/],
  ] as [Partial<CallFacts>, RegExp][])('%j: %s', (more, words) => expect(first(more)).toMatch(words));

  it('each has its test, and the same frequency is no cause', () => {
    const all = causesOfNoAnswer({ ...facts, savedFrequencyMHz: 144.8, frequencyMHz: 144.8 });
    expect(all.every(({ test }) => test.length > 10)).toBe(true);
    expect(all.some(({ cause }) => cause.includes('listens on'))).toBe(false);
  });
});
