import fc from 'fast-check';
import { seededDice } from '../network/dice.js';
import { link } from './testing/way-out-link.js';
import {
  CLASSES,
  IDENTIFY_WITHIN_MS,
  LEAST_SHARE,
  LONGEST_OVER_MS,
  PAUSE_MS,
  type Offered,
  type SendClass,
} from './way-out.js';

/** Every class has more to say than there is air: who gets what. */
function compete(seed: number, minutes: number): Map<SendClass, number> {
  const dice = seededDice(seed);
  const one = link();
  const air = new Map<SendClass, number>();
  const frames = new Map<string, Offered>();
  let last = 0;
  const feed = (): void => {
    for (const sendClass of CLASSES.filter((name) => name !== 'acknowledgement'))
      while (
        one.state().waiting.filter((frame) => frame.sendClass === sendClass).length <
        (sendClass === 'beacon' ? 1 : 4)
      ) {
        const owner = `${sendClass} ${Math.floor(dice() * 2)}`;
        const frame = { id: `${++last}`, owner, sendClass, airTimeMs: 200 + dice() * 1800, identifies: true };
        frames.set(frame.id, frame);
        one.offer(frame);
      }
    one.clock.after(100, feed);
  };
  feed();
  one.clock.advance(minutes * 60_000);
  for (const { ids } of one.overs)
    for (const id of ids) {
      const { sendClass, airTimeMs } = frames.get(id) as Offered;
      air.set(sendClass, (air.get(sendClass) ?? 0) + airTimeMs);
    }
  return air;
}

describe('least shares', () => {
  it('leave a third to the order', () => {
    const sum = Object.values(LEAST_SHARE).reduce((a, b) => a + b);
    expect(sum).toBeCloseTo(0.65);
  });

  it.each([1, 2])('each class that always waits gets its own, the first the most (seed %i)', (seed) => {
    const air = compete(seed, 60);
    const all = [...air.values()].reduce((a, b) => a + b, 0);
    for (const sendClass of CLASSES.slice(1))
      // The beacon, of which one waits at most, loses what is less than a frame with each that goes.
      expect((air.get(sendClass) ?? 0) / all).toBeGreaterThan(
        LEAST_SHARE[sendClass] * (sendClass === 'beacon' ? 0.8 : 0.98),
      );
    // The order gives what is left to the first class that always has something.
    expect((air.get('test') ?? 0) / all).toBeGreaterThan(0.3);
  });
});

describe('whatever happens', () => {
  const event = fc.oneof(
    {
      weight: 8,
      arbitrary: fc.record({
        kind: fc.constant('offer' as const),
        owner: fc.constantFrom('a', 'b', 'c'),
        sendClass: fc.constantFrom(...CLASSES),
        airTimeMs: fc.integer({ min: 1, max: 40_000 }),
        identifies: fc.boolean(),
        lifeMs: fc.option(fc.integer({ min: 0, max: 20_000 }), { nil: undefined }),
      }),
    },
    { weight: 5, arbitrary: fc.record({ kind: fc.constant('wait' as const), ms: fc.nat(20_000) }) },
    {
      weight: 1,
      arbitrary: fc.record({ kind: fc.constant('withdraw' as const), owner: fc.constantFrom('a', 'b') }),
    },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant('close' as const) }) },
    {
      weight: 1,
      arbitrary: fc.record({
        kind: fc.constant('lease' as const),
        owner: fc.constantFrom('a', 'b'),
        ms: fc.nat(30_000),
      }),
    },
    {
      weight: 1,
      arbitrary: fc.record({ kind: fc.constant('release' as const), owner: fc.constantFrom('a', 'b') }),
    },
  );

  it('each frame ends once, in its owner’s order, in time, overs are bounded and apart, and nothing waits for ever', () => {
    fc.assert(
      fc.property(fc.array(event, { maxLength: 80 }), (events) => {
        const one = link();
        const offered: Offered[] = [];
        for (const what of events) {
          if (what.kind === 'wait') one.clock.advance(what.ms);
          else if (what.kind === 'offer') {
            const { lifeMs, ...rest } = what;
            const id = String(offered.length);
            const expiresAtMs = lifeMs === undefined ? undefined : one.clock.nowMs() + lifeMs;
            offered.push({ ...rest, id, expiresAtMs });
            one.offer({ ...rest, id, expiresAtMs });
          } else one.tell(what);
        }
        one.clock.advance(80 * (LONGEST_OVER_MS + PAUSE_MS) + IDENTIFY_WITHIN_MS);
        expect([one.state().waiting, one.clock.leftovers()]).toEqual([[], 0]);
        const handed = one.overs.flatMap(({ ids }) => ids);
        const dropped = one.told.flatMap((line) => /drop (\d+)/.exec(line)?.[1] ?? []);
        expect([...handed, ...dropped].map(Number).sort((a, b) => a - b)).toEqual(offered.map((_, i) => i));
        for (const owner of ['a', 'b', 'c']) {
          const own = handed.map(Number).filter((id) => offered[id]?.owner === owner);
          expect(own).toEqual([...own].sort((a, b) => a - b));
        }
        let endsAtMs = -Infinity;
        let beganAtMs = 0;
        for (const { atMs, ids, leftAfterMs } of one.overs) {
          const joins = atMs < endsAtMs;
          if (!joins) {
            expect(atMs - endsAtMs).toBeGreaterThanOrEqual(PAUSE_MS);
            beganAtMs = atMs;
          }
          endsAtMs = atMs + leftAfterMs;
          expect(endsAtMs - beganAtMs).toBeLessThanOrEqual(LONGEST_OVER_MS + 1e-6);
          for (const id of ids) expect(offered[Number(id)]?.expiresAtMs ?? Infinity).toBeGreaterThan(atMs);
        }
      }),
      { numRuns: 300 },
    );
  });
});
