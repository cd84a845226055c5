import type { LinkEvent } from './frame-link.js';
import { Garbage } from './garbage.js';

type Discard = Extract<LinkEvent, { kind: 'discard' }>;
const piece = (reason: Discard['reason'], octets = 256): Discard => ({
  kind: 'discard',
  atMs: 0,
  reason,
  octets,
  raw: Uint8Array.of(1),
});

describe('garbage', () => {
  it('passes piece by piece while it is little', () => {
    const garbage = new Garbage();
    for (let i = 0; i < 40; i++) expect(garbage.take(piece('outside a frame'), i * 250)).toHaveLength(1);
    expect(garbage.isHolding()).toBe(false);
  });

  it('is summed where it is much, by reason, and nothing is lost of the count', () => {
    const garbage = new Garbage();
    const out: Discard[] = [];
    for (let i = 0; i < 10_000; i++) {
      out.push(...garbage.take(piece('outside a frame', 100), i / 10));
      if (i % 10 === 0) out.push(...garbage.take(piece('bad escape', 7), i / 10));
    }
    expect(garbage.isHolding()).toBe(true);
    out.push(...garbage.summed());
    const total = (reason: string, of: (one: Discard) => number): number =>
      out.filter((one) => one.reason === reason).reduce((sum, one) => sum + of(one), 0);
    const times = (one: Discard): number => one.times ?? 1;
    expect([total('outside a frame', times), total('bad escape', times)]).toEqual([10_000, 1000]);
    expect(total('outside a frame', ({ octets }) => octets)).toBe(1_000_000);
    expect(out).toHaveLength(2 * (4 + 1));
    expect(garbage.summed()).toEqual([]);
  });

  it('of a second is told with the first piece of the next, and that one passes', () => {
    const garbage = new Garbage();
    for (let i = 0; i < 6; i++) garbage.take(piece('cut off'), 0);
    expect(garbage.take(piece('cut off'), 999)).toEqual([]);
    expect(garbage.take(piece('cut off'), 1000).map(({ times }) => times)).toEqual([3, undefined]);
  });
});
