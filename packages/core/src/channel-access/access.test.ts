import fc from 'fast-check';
import { accessParameters, contenders, persistence, slotTime, txDelay, txTail } from './access.js';

describe('TXDELAY', () => {
  // 250 ms + 6 flags of 8 bits at 1200 baud = 40 ms; by hand.
  it('is key-up and some flags, in steps of 10 ms', () => expect(txDelay('PTT line', 1200).value).toBe(290));
  it('is longer where sound keys', () => expect(txDelay('VOX', 1200).value).toBe(490));
  it('follows a key-up that was typed in', () => expect(txDelay('VOX', 1200, 613).value).toBe(660));
  it('is longer at 300 baud, and never more than KISS carries', () => {
    expect(txDelay('TNC', 300).value).toBe(410);
    expect(txDelay('VOX', 1200, 9000).value).toBe(2550);
  });
  it('is told why', () =>
    expect(txDelay('VOX', 1200).because).toContain('450 ms until a radio keyed by VOX is up'));
  it('of no rate is a mistake of the caller', () => expect(() => txDelay('VOX', 0)).toThrow(RangeError));
});

describe('slot time and tail', () => {
  it.each([
    [1200, 100, 20],
    [9600, 100, 10],
    [300, 260, 80],
  ])('at %i baud: %i ms and %i ms', (baud, slot, tail) => {
    expect(slotTime(baud).value).toBe(slot);
    expect(txTail(baud).value).toBe(tail);
  });
});

describe('persistence', () => {
  const senders = (count: number, everySeconds: number) =>
    Array.from({ length: count }, () => ({ framesPerSecond: 1 / everySeconds }));

  it('is the paper’s default where nothing was heard', () => expect(persistence(undefined).value).toBe(0.25));

  it('counts those that became ready while the channel was held', () => {
    expect(contenders({ use: 0, meanFrameMs: 1000, senders: [] })).toBe(1);
    // One station that sends every second on average, channel held for 1 s: 1 + (1 − 1/e); by hand.
    expect(contenders({ use: 0, meanFrameMs: 1000, senders: senders(1, 1) })).toBeCloseTo(1.6321, 4);
  });

  it('is one over the stations that are ready, at most a half, and falls with the load', () => {
    const quiet = persistence({ use: 0.1, meanFrameMs: 700, senders: senders(10, 120) });
    expect(quiet.value).toBe(0.5);
    expect(quiet.because).toContain('not above a half');
    const busy = { use: 0.6, meanFrameMs: 1000, senders: senders(20, 5) };
    expect(persistence(busy).value).toBeCloseTo(1 / contenders(busy), 2);
    expect(persistence({ ...busy, use: 1 }).value).toBeLessThan(persistence(busy).value);
  });

  it('one over n is the maximum of n·p·(1 − p)^(n − 1)', () => {
    const chance = (n: number, p: number): number => n * p * (1 - p) ** (n - 1);
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 40 }),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (n, p) => chance(n, 1 / n) >= chance(n, p) - 1e-12,
      ),
    );
  });

  it('all of them are within what KISS carries', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 1, max: 5000, noNaN: true }),
        fc.array(fc.double({ min: 0, max: 10, noNaN: true }), { maxLength: 60 }),
        fc.constantFrom(300, 1200, 9600),
        (use, meanFrameMs, rates, baud) => {
          const load = { use, meanFrameMs, senders: rates.map((framesPerSecond) => ({ framesPerSecond })) };
          const { txDelayMs, persistence: p, slotTimeMs, txTailMs } = accessParameters('VOX', baud, load);
          for (const { value } of [txDelayMs, slotTimeMs, txTailMs]) {
            expect(value % 10).toBe(0);
            expect(value).toBeLessThanOrEqual(2550);
          }
          expect(p.value).toBeGreaterThan(0);
          expect(p.value).toBeLessThanOrEqual(0.5);
        },
      ),
    );
  });
});
