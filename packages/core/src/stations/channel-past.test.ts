import { laneOf, noteOnAir, PAST_MS, shareHeld, SPAN_MS, type ChannelPast } from './channel-past.js';

const play = (...frames: readonly [number, number, number][]): ChannelPast =>
  frames.reduce<ChannelPast>((past, [atMs, lane, airMs]) => noteOnAir(past, { atMs, lane, airMs }), []);

describe('the past of a channel', () => {
  it.each([
    ['sent', 3, 0],
    ['heard', 0, 1],
    ['heard', 1, 2],
    ['heard', 2, 3],
    ['heard', 7, 3],
    ['heard', undefined, 1],
  ] as const)('%s over %s hops is lane %i', (direction, hops, lane) =>
    expect(laneOf(direction, hops)).toBe(lane),
  );

  it('sums what falls into the same two seconds, by lane', () => {
    expect(play([10_000, 1, 300], [11_999, 1, 200], [11_999, 0, 50], [12_000, 2, 1])).toEqual([
      { fromMs: 10_000, airMs: [50, 500, 0, 0], heard: 2 },
      { fromMs: 12_000, airMs: [0, 0, 1, 0], heard: 1 },
    ]);
  });

  it('keeps five minutes, however many frames', () => {
    const many = Array.from({ length: 60_000 }, (_, i): [number, number, number] => [i * 20, 1, 1]);
    const past = play(...many);
    expect(past).toHaveLength(PAST_MS / SPAN_MS);
    expect(past.reduce((sum, { heard }) => sum + heard, 0)).toBe(PAST_MS / 20);
    expect(past.at(-1)?.fromMs).toBe(1_198_000);
  });

  it('begins anew where the clock was set back', () => {
    expect(play([100_000, 1, 5], [20_000, 1, 7])).toEqual([
      { fromMs: 20_000, airMs: [0, 7, 0, 0], heard: 1 },
    ]);
  });

  it('tells the share that was held, with what others need before their first flag', () => {
    const past = play([10_000, 1, 300], [20_000, 0, 400], [20_001, 3, 300]);
    expect(shareHeld(past, 21_000, 250)).toBeCloseTo((1000 + 2 * 250) / PAST_MS, 10);
    expect(shareHeld(past, 10_000 + PAST_MS, 250)).toBeCloseTo((1000 + 2 * 250) / PAST_MS, 10);
    expect(shareHeld(past, 10_001 + PAST_MS, 250)).toBeCloseTo((700 + 250) / PAST_MS, 10);
    expect(shareHeld(play([10_000, 1, 10 * PAST_MS]), 10_000, 0)).toBe(1);
  });
});
