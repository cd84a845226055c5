import { drive } from '../machine/drive.js';
import {
  QUIET,
  step,
  USUAL_ACCESS,
  type Access,
  type ChannelContext,
  type ChannelEffect,
  type ChannelEvent,
  type ChannelPhysics,
  type ChannelState,
} from './channel.js';
import { Timetable } from './timetable.js';

/** Dice for the tests: the 64-bit multiplicative generator of Knuth's tables, good enough for confidence bounds. */
function dice(seed: number): () => number {
  let state = BigInt(seed) * 2_862_933_555_777_941_757n + 3_037_000_493n;
  return () => {
    state = (state * 6_364_136_223_846_793_005n + 1_442_695_040_888_963_407n) & 0xffff_ffff_ffff_ffffn;
    return Number(state >> 11n) / 2 ** 53;
  };
}

type Happened = Exclude<ChannelEffect, { kind: 'start' | 'stop' }> & { readonly atMs: number };

/** Runs the model over offers, event by event; gives everything that happened. */
function play(
  physics: ChannelPhysics,
  offers: readonly { atMs: number; from: string; access?: Access }[],
  roll: () => number,
  airTimeMs = 500,
): { happened: Happened[]; state: ChannelState } {
  const clock = new Timetable();
  const happened: Happened[] = [];
  const channel = drive<ChannelState, ChannelEvent, ChannelEffect, ChannelContext>(step, QUIET, {
    clock,
    dice: roll,
    context: (moment) => ({ ...moment, physics }),
    perform: (effect) => happened.push({ ...effect, atMs: clock.nowMs() }),
  });
  offers.forEach(({ atMs, from, access = EAGER }, id) =>
    clock.after(atMs, () => channel.dispatch({ kind: 'offer', frame: { id, from, airTimeMs, access } })),
  );
  while (clock.next());
  return { happened, state: channel.state() };
}

const EAGER: Access = { ...USUAL_ACCESS, persistence: 1 };
const FAR = -200;

function physics(sets: readonly string[], hear: ChannelPhysics['hear'], more = {}): ChannelPhysics {
  return { sets, hear, thresholdDbm: -113, captureDb: 6, senseAfterMs: 30, ...more };
}

const kinds = (happened: Happened[], kind: Happened['kind']): Happened[] =>
  happened.filter((one) => one.kind === kind);

describe('one channel', () => {
  const near = physics(['a', 'b', 'c'], () => -80);

  it('delivers after the air time, to all who hear, not to the sender', () => {
    const deaf = physics(['a', 'b', 'c'], (by) => (by === 'c' ? FAR : -80));
    const { happened, state } = play(deaf, [{ atMs: 0, from: 'a' }], dice(1));
    expect(kinds(happened, 'received')).toEqual([{ kind: 'received', id: 0, by: 'b', dbm: -80, atMs: 500 }]);
    expect(state).toEqual(QUIET);
  });

  it('listens before it sends, and sends its own frames in order', () => {
    const offers = [
      { atMs: 0, from: 'a' },
      { atMs: 100, from: 'b' },
      { atMs: 110, from: 'b' },
    ];
    const { happened } = play(near, offers, dice(2));
    expect(kinds(happened, 'received').filter((one) => 'by' in one && one.by === 'c')).toMatchObject([
      { id: 0 },
      { id: 1 },
      { id: 2 },
    ]);
  });

  it('does not notice a carrier younger than the carrier detect is slow', () => {
    const { happened } = play(
      near,
      [0, 29].map((atMs, i) => ({ atMs, from: 'ab'[i] as string })),
      dice(3),
    );
    expect(kinds(happened, 'received')).toEqual([]);
    expect(new Set(kinds(happened, 'lost').map((one) => 'reason' in one && one.reason))).toEqual(
      new Set(['collision', 'sending itself']),
    );
  });

  it.each([
    [5.9, 0],
    [6.1, 1],
  ])('two hidden sets, one %d dB louder: %i is read', (louderDb, read) => {
    const hidden = physics(['a', 'b', 'c'], (by, from) =>
      by === 'c' ? (from === 'a' ? -90 + louderDb : -90) : FAR,
    );
    const { happened } = play(
      hidden,
      [
        { atMs: 0, from: 'a' },
        { atMs: 100, from: 'b' },
      ],
      dice(4),
    );
    expect(kinds(happened, 'received')).toHaveLength(read);
  });
});

describe('several frames of one set', () => {
  const near = physics(['a', 'b', 'c'], () => -80);
  // arithmetic: 500 ms are 300 of TXDELAY, 170 of frame and 30 of tail.
  const receivedByC = (happened: Happened[], from: string): number[] => {
    const ids = new Set(
      kinds(happened, 'keyed').flatMap((one) => ('from' in one && one.from === from ? one.id : [])),
    );
    return happened.flatMap((one) =>
      one.kind === 'received' && one.by === 'c' && ids.has(one.id) ? one.atMs : [],
    );
  };

  it('that waited go out in one go: one TXDELAY, one tail', () => {
    const offers = [
      { atMs: 0, from: 'b' },
      { atMs: 100, from: 'a' },
      { atMs: 120, from: 'a' },
    ];
    const { happened } = play(near, offers, dice(8));
    // The channel is free in the slot at 500.
    expect(receivedByC(happened, 'a')).toEqual([500 + 300 + 170, 500 + 300 + 170 + 170 + 30]);
  });

  it('that come while it sends go out behind, and nobody gets in between', () => {
    const offers = [
      { atMs: 0, from: 'a' },
      { atMs: 100, from: 'a' },
      { atMs: 505, from: 'b' },
    ];
    const { happened } = play(near, offers, dice(9));
    expect(receivedByC(happened, 'a')).toEqual([500, 500 + 170 + 30]);
    expect(kinds(happened, 'lost')).toEqual([]);
    expect(receivedByC(happened, 'b')).toEqual([505 + 200 + 500]);
  });
});

describe('physics against closed formulas', () => {
  // arithmetic: slots waited are geometric: mean (1 − p)/p = 3 at p = 0.25, deviation √(1 − p)/p; five standard errors.
  it('waits (1 − p)/p slots on average', () => {
    const trials = 4000;
    const offers = Array.from({ length: trials }, (_, i) => ({
      atMs: i * 100_000,
      from: 'a',
      access: USUAL_ACCESS,
    }));
    const { happened } = play(
      physics(['a', 'b'], () => -80),
      offers,
      dice(5),
    );
    const waitedMs = kinds(happened, 'keyed').reduce((sum, { atMs }) => sum + (atMs % 100_000), 0);
    const mean = waitedMs / trials / USUAL_ACCESS.slotTimeMs;
    expect(Math.abs(mean - 3)).toBeLessThan((5 * Math.sqrt(0.75)) / 0.25 / Math.sqrt(trials));
  });

  // Abramson 1970, "The ALOHA system": a frame passes with e^(−2G), G frames offered per frame time, if nobody hears
  // the others and none is captured. Each frame here has a sender of its own. Five standard errors.
  it.each([0.1, 0.35, 0.8])('hidden senders at load %d pass e^(−2G)', (load) => {
    const roll = dice(6);
    const trials = 6000;
    let atMs = 0;
    const offers = Array.from({ length: trials }, (_, i) => {
      atMs += (-Math.log(1 - roll()) * 500) / load;
      return { atMs, from: `s${i}` };
    });
    const hub = physics(['hub'], (by) => (by === 'hub' ? -80 : FAR), { captureDb: 100 });
    const passed = kinds(play(hub, offers, roll).happened, 'received').length / trials;
    const expected = Math.exp(-2 * load);
    // Neighbouring frames fall together, so the error is taken twice that of independent trials.
    const error = 2 * Math.sqrt((expected * (1 - expected)) / trials);
    expect(Math.abs(passed - expected)).toBeLessThan(5 * error);
  });

  // arithmetic: two levels uniform over 20 dB: one stands 6 dB above the other with ((20 − 6)/20)² = 0.49.
  it('captures one of two signals of random level as often as their difference says', () => {
    const roll = dice(7);
    const trials = 4000;
    let read = 0;
    for (let i = 0; i < trials; i++) {
      const levels: Record<string, number> = { a: -100 + 20 * roll(), b: -100 + 20 * roll() };
      const hidden = physics(['c'], (by, from) => (by === 'c' ? (levels[from] as number) : FAR));
      const { happened } = play(
        hidden,
        [
          { atMs: 0, from: 'a' },
          { atMs: 50, from: 'b' },
        ],
        roll,
      );
      read += kinds(happened, 'received').length;
    }
    expect(Math.abs(read / trials - 0.49)).toBeLessThan(5 * Math.sqrt((0.49 * 0.51) / trials));
  });

  it('every frame is accounted for, whatever the load: received, lost or out of reach, and nothing is left', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const roll = dice(seed);
      const sets = ['a', 'b', 'c', 'd', 'e'];
      const levels = new Map(sets.map((by) => [by, new Map(sets.map((from) => [from, -125 + 60 * roll()]))]));
      const model = physics(sets, (by, from) => levels.get(by)?.get(from) ?? FAR);
      const offers = Array.from({ length: 40 }, () => ({
        atMs: roll() * 15_000,
        from: sets[Math.floor(roll() * 5)] as string,
        access: USUAL_ACCESS,
      }));
      const { happened, state } = play(model, offers, roll);
      expect(state).toEqual(QUIET);
      expect(kinds(happened, 'keyed')).toHaveLength(40);
      const inReach = offers.reduce(
        (sum, { from }) => sum + sets.filter((by) => by !== from && model.hear(by, from) >= -113).length,
        0,
      );
      expect(kinds(happened, 'received').length + kinds(happened, 'lost').length).toBe(inReach);
    }
  });
});
