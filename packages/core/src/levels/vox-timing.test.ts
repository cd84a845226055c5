import type { HeardPacket, Stretch } from './sound-watch.js';
import { answersBeginLate, hangWords, measureVox, voxParameters } from './vox-timing.js';

const packet = (atMs: number, preambleMs: number): HeardPacket => ({ atMs, preambleMs }) as HeardPacket;

/** Hiss, a packet from 1 to 2 s, its carrier until hangMs after it, hiss. */
function stretches(hangMs: number): Stretch[] {
  return Array.from({ length: 120 }, (_, i) => {
    const atMs = 50 * (i + 1);
    const busy = atMs > 1000 && atMs <= 2000 ? { busy: 'data' as const } : {};
    const isCarrier = atMs > 2000 && atMs <= 2000 + hangMs;
    return { atMs, rmsDbfs: isCarrier ? -50 : busy.busy ? -16 : -12, ...busy } as Stretch;
  });
}

describe('VOX timing', () => {
  it('attack is what is missing of the preamble, hang how long the noise stays away', () => {
    const timing = measureVox([packet(2000, 320)], stretches(600), 500);
    expect(timing).toMatchObject({ attackMs: 180, packets: 1 });
    expect(Math.abs((timing?.hangMs ?? 0) - 600)).toBeLessThanOrEqual(50);
    expect(measureVox([packet(2000, 520)], stretches(0), 500)).toMatchObject({ attackMs: 0 });
    expect(measureVox([], stretches(600), 500)).toBeUndefined();
    expect(measureVox([packet(2000, 320)], [], 500)).toEqual({ attackMs: 180, packets: 1 });
  });

  it('a carrier that does not end within three seconds is not told', () => {
    expect(measureVox([packet(2000, 320)], stretches(3100), 500)).not.toHaveProperty('hangMs');
  });

  it('gives the parameters, in tens', () => {
    expect(voxParameters({ attackMs: 181, packets: 1 })).toEqual({ txDelayMs: 340, txTailMs: 30 });
    expect(voxParameters({ attackMs: 180, packets: 1 })).toEqual({ txDelayMs: 330, txTailMs: 30 });
    expect(voxParameters({ attackMs: 4000, packets: 1 }).txDelayMs).toBe(2550);
  });

  it('a hang longer than the answer loses its beginning', () => {
    expect(hangWords({ attackMs: 0, hangMs: 300, packets: 1 })).toBeUndefined();
    expect(hangWords({ attackMs: 0, hangMs: 301, packets: 1 })).toContain('for 301 ms');
    expect(hangWords({ attackMs: 0, hangMs: 301, packets: 1 }, 400)).toBeUndefined();
    expect(hangWords({ attackMs: 0, packets: 1 })).toBeUndefined();
  });
});

it('answers that begin late while others are whole', () => {
  const all = (preambleMs: number, count = 3): HeardPacket[] =>
    Array.from({ length: count }, () => packet(0, preambleMs));
  const how = { lateMs: 60, least: 3 };
  expect(answersBeginLate(all(59), all(60), how)).toBe(true);
  expect(answersBeginLate(all(60), all(60), how)).toBe(false);
  expect(answersBeginLate(all(59), all(59), how)).toBe(false);
  expect(answersBeginLate(all(20, 2), all(300), how)).toBe(false);
  expect(answersBeginLate(all(20), all(300, 2), how)).toBe(false);
});
