import { planTrial, runTrial, type TrialPlan } from '../session-trial/trial.js';
import { usualTimers } from '../sessions/timers.js';
import {
  meanWaitMs,
  PACKET_OCTETS,
  recommend,
  throughput,
  WINDOWS,
  type Choice,
  type ConnectionTerms,
} from './throughput.js';

/** The channel access of the trials (core/session-trial/trial): TXDELAY 250 ms, p 0.25, slots of 100 ms, tail 20 ms. */
const terms = (digipeaters: number, frameLoss: number, selective = false): ConnectionTerms => ({
  baud: 1200,
  txDelayMs: 250,
  txTailMs: 20,
  channelWaitMs: meanWaitMs(0.25, 100),
  digipeaters,
  frameLoss,
  selective,
});

/** Octets a second of the connected-mode simulation, both ends with these terms, all data one way. */
function simulated(
  { digipeaters, frameLoss, selective }: ConnectionTerms,
  choice: Choice,
  seeds = 12,
): number {
  const { packetOctets, window } = choice;
  const base = planTrial(1);
  const via = ['QH1ANR', 'QH1TOP'].slice(0, digipeaters);
  const bits = 8 * (128 + 16 + 7 * digipeaters);
  const end = (i: 0 | 1): TrialPlan['ends'][0] => ({
    ...base.ends[i],
    via: i === 0 ? via : [...via].reverse(),
    packetOctets,
    window8: window,
    extended: false,
    selective,
    ...usualTimers({ baud: 1200, txDelayMs: 250, packetOctets, window, digipeaters }),
  });
  let octets = 0;
  let ms = 0;
  for (let seed = 1; seed <= seeds; seed++) {
    const { deliveredOctets, tookMs } = runTrial({
      ...base,
      seed,
      via,
      loss: 0,
      bitErrors: 1 - (1 - frameLoss) ** (1 / bits),
      doubling: 0,
      delaying: 0,
      damage: 0,
      hidden: false,
      busy: false,
      bothCall: false,
      octets: [6000, 0],
      portion: 2000,
      abruptAfterMs: undefined,
      ends: [end(0), end(1)],
    });
    octets += deliveredOctets;
    ms += tookMs;
  }
  return (1000 * octets) / ms;
}

describe('throughput beside the connected-mode simulation', () => {
  // Without loss and without answers in the middle of a window it is exact but for connecting and hanging up.
  it.each([
    [0, { packetOctets: 32, window: 1 }],
    [0, { packetOctets: 256, window: 1 }],
    [0, { packetOctets: 128, window: 2 }],
    [1, { packetOctets: 128, window: 1 }],
    [1, { packetOctets: 256, window: 2 }],
  ])('%i digipeaters, no loss, %j: within a tenth', (digipeaters, choice) => {
    const ratio = throughput(terms(digipeaters, 0), choice) / simulated(terms(digipeaters, 0), choice);
    expect(ratio).toBeGreaterThan(0.95);
    expect(ratio).toBeLessThan(1.1);
  });

  it.each([
    [0, 0.05, { packetOctets: 64, window: 4 }],
    [0, 0.05, { packetOctets: 256, window: 7 }],
    [0, 0.15, { packetOctets: 128, window: 2 }],
    [0, 0.15, { packetOctets: 128, window: 7 }],
    [1, 0.05, { packetOctets: 128, window: 2 }],
    [1, 0.05, { packetOctets: 128, window: 4 }],
  ])(
    '%i digipeaters, loss %d, %j: an estimate, two thirds to one and a half',
    (digipeaters, loss, choice) => {
      const ratio =
        throughput(terms(digipeaters, loss), choice) / simulated(terms(digipeaters, loss), choice);
      expect(ratio).toBeGreaterThan(2 / 3);
      expect(ratio).toBeLessThan(1.5);
    },
  );

  it.each([
    [0, 0, false],
    [0, 0.15, false],
    [1, 0.05, false],
    [1, 0.15, false],
    [0, 0.05, true],
  ])(
    '%i digipeaters, loss %d, single repeats %s: what is recommended comes near the best',
    (digipeaters, loss, selective) => {
      const here = terms(digipeaters, loss, selective);
      const best = Math.max(
        ...[1, 2, 4, 7]
          .filter((window) => !selective || window <= 4)
          .flatMap((window) =>
            [32, 128, 256].map((packetOctets) => simulated(here, { packetOctets, window }, 6)),
          ),
      );
      expect(simulated(here, recommend(here), 6)).toBeGreaterThan(0.65 * best);
    },
  );
});

describe('the recommendation', () => {
  it('is shorter on a bad channel than on a good one, and says T1 and N2', () => {
    const good = recommend(terms(0, 0.01));
    const bad = recommend(terms(0, 0.4));
    expect(bad.packetOctets * bad.window).toBeLessThan(good.packetOctets * good.window);
    // AX.25 2.2, 6.7.2.1: N2 is 10 by default.
    expect(good.retries).toBe(10);
    // arithmetic: over two digipeaters at 60 % a question of 29 octets and its answer come through with 0.4^(6 · 29/158) = 0.36, so 1 − 0.36 fails 16 times in a row with 0.001.
    expect(recommend(terms(2, 0.6)).retries).toBe(16);
    expect(good.firstT1Ms).toBeGreaterThanOrEqual(3000);
  });

  it('never asks for single repeats with a window over four', () => {
    for (const loss of [0, 0.1, 0.3]) expect(recommend(terms(0, loss, true)).window).toBeLessThanOrEqual(4);
  });

  it('every choice has a throughput that is a number, below the rate, and falls with loss', () => {
    for (const window of WINDOWS)
      for (const packetOctets of PACKET_OCTETS)
        for (const digipeaters of [0, 1, 2]) {
          const rates = [0, 0.1, 0.5, 0.9].map((loss) =>
            throughput(terms(digipeaters, loss), { packetOctets, window }),
          );
          expect(rates.every((rate) => rate >= 0 && rate < 150)).toBe(true);
          expect(rates).toEqual([...rates].sort((a, b) => b - a));
        }
  });

  // arithmetic: (1 − 0.25)/0.25 slots of 100 ms.
  it('a persistence of a quarter waits three slots in the mean', () => {
    expect(meanWaitMs(0.25, 100)).toBe(300);
    expect(meanWaitMs(0, 100)).toBe(Infinity);
  });
});
