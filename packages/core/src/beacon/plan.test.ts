import { placeAt } from '../geo/position.js';
import { MPS_PER_MPH } from '../units/units.js';
import {
  dueAtMs,
  noteSent,
  shortestEveryMs,
  STANDS_BELOW_MPS,
  USUAL_PLANS,
  type BeaconPlan,
  type Fix,
  type LastBeacon,
} from './plan.js';

const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
const MIN = 60_000;
const fix = (atMs: number, more: Partial<Fix> = {}): Fix => ({ atMs, position: HERE, ...more });
const after = (sent: Fix, standing = 0): LastBeacon => ({ fix: sent, standing });
const mph = (speed: number): number => speed * MPS_PER_MPH;

describe('usual plans', () => {
  // Usual figures of practice (from memory): what a fresh form holds.
  it('are these', () =>
    expect(USUAL_PLANS).toEqual({
      interval: { kind: 'interval', everyMs: 300_000 },
      'speed-and-turn': {
        kind: 'speed-and-turn',
        lowSpeedMps: mph(5),
        slowEveryMs: 1_800_000,
        highSpeedMps: mph(60),
        fastEveryMs: 180_000,
        leastTurnDeg: 28,
        turnSlope: 255,
        leastTurnGapMs: 30_000,
      },
      decaying: { kind: 'decaying', movingEveryMs: 120_000, longestMs: 1_800_000 },
      distance: { kind: 'distance', everyM: 1000, longestMs: 1_800_000 },
      once: { kind: 'once' },
    }));
});

describe('every plan', () => {
  it.each(Object.values(USUAL_PLANS) as BeaconPlan[])('%o sends the first at once', (plan) =>
    expect(dueAtMs(plan, undefined, fix(500))).toBe(500),
  );
});

describe('speed and turn', () => {
  const plan = USUAL_PLANS['speed-and-turn'];
  const last = after(fix(0, { courseDeg: 90 }));
  const due = (speedMps: number, courseDeg = 90, atMs = 10_000): number =>
    dueAtMs(plan, last, fix(atMs, { speedMps, courseDeg }));

  // The published algorithm: rate = fast rate · fast speed / speed between the limits.
  it.each([
    [0, 30],
    [5, 30],
    [6, 30],
    [12, 15],
    [30, 6],
    [45, 4],
    [60, 3],
    [100, 3],
  ])('at %i mph sends every %i min', (speed, minutes) =>
    expect(due(mph(speed)) / MIN).toBeCloseTo(minutes, 6),
  );

  // threshold = 28° + 255 / speed: at 15 mph 45°, at 51 mph 33°.
  it.each([
    [15, 90 + 45.1, true],
    [15, 90 + 44.9, false],
    [15, 90 - 45.1, true],
    [51, 90 + 33.1, true],
    [51, 90 + 32.9, false],
    [5, 270, false],
  ])('at %i mph a course of %d° is a turn: %s', (speed, course, isTurn) => {
    const fine = { ...plan, lowSpeedMps: mph(5) } as const;
    const at = dueAtMs(fine, last, fix(40_000, { speedMps: mph(speed), courseDeg: (course + 360) % 360 }));
    expect(at === 40_000).toBe(isTurn);
  });

  it('at a turn waits for its least gap, and across north turns the short way', () => {
    expect(due(mph(30), 200, 29_999)).toBe(30_000);
    expect(due(mph(30), 200, 30_001)).toBe(30_001);
    const north = after(fix(0, { courseDeg: 350 }));
    const turned = (courseDeg: number): number =>
      dueAtMs(plan, north, fix(40_000, { speedMps: mph(51), courseDeg }));
    expect(turned(20)).toBe(dueAtMs(plan, north, fix(40_000, { speedMps: mph(51), courseDeg: 350 })));
    expect(turned(24)).toBe(40_000);
  });

  it('at its bounds: at the low speed slow and without turns, at the threshold no turn yet', () => {
    const exact = { ...plan, slowEveryMs: 60 * MIN, leastTurnDeg: 30, turnSlope: 0 } as const;
    const at = (speedMps: number, courseDeg: number): number =>
      dueAtMs(exact, last, fix(40_000, { speedMps, courseDeg }));
    expect(at(exact.lowSpeedMps, 270)).toBe(60 * MIN);
    expect(at(exact.lowSpeedMps + 0.001, 270)).toBe(40_000);
    expect(at(mph(60), 120)).toBe(3 * MIN);
    expect(at(mph(60), 120.1)).toBe(40_000);
  });

  it('without a course has no turns', () =>
    expect(dueAtMs(plan, last, fix(40_000, { speedMps: mph(60) }))).toBe(3 * MIN));
});

describe('at most', () => {
  it.each([
    ['interval', 5],
    ['speed-and-turn', 3],
    ['decaying', 2],
    // arithmetic: 1000 m at 50 km/h.
    ['distance', 1.2],
    ['once', Infinity],
  ] as const)('%s sends every %d min', (kind, minutes) =>
    expect(shortestEveryMs(USUAL_PLANS[kind]) / MIN).toBeCloseTo(minutes, 6),
  );

  it('by distance sends at the latest when its longest is over', () =>
    expect(shortestEveryMs({ kind: 'distance', everyM: 100_000, longestMs: MIN })).toBe(MIN));
});

describe('the others', () => {
  it('an interval is an interval', () =>
    expect(dueAtMs({ kind: 'interval', everyMs: MIN }, after(fix(7)), fix(9))).toBe(MIN + 7));

  it('once is once', () => expect(dueAtMs({ kind: 'once' }, after(fix(0)), fix(1e9))).toBe(Infinity));

  it('by distance sends when it is gone, or at the longest', () => {
    const plan = { kind: 'distance', everyM: 1000, longestMs: 30 * MIN } as const;
    const at = (km: number): Fix => fix(MIN, { position: placeAt(HERE, km, 45) });
    expect(dueAtMs(plan, after(fix(0)), at(0.999))).toBe(30 * MIN);
    expect(dueAtMs(plan, after(fix(0)), at(1.001))).toBe(MIN);
  });

  it('after a stop each interval is twice the last, up to the longest, and moving ends that', () => {
    const plan = { kind: 'decaying', movingEveryMs: 2 * MIN, longestMs: 10 * MIN } as const;
    const moving = fix(0, { speedMps: STANDS_BELOW_MPS });
    const standing = (atMs: number): Fix => fix(atMs, { speedMps: STANDS_BELOW_MPS - 0.01 });
    let last = noteSent(undefined, moving);
    const gaps = [1, 2, 3, 4, 5].map(() => {
      const due = dueAtMs(plan, last, standing(last.fix.atMs + 1));
      const gap = due - last.fix.atMs;
      last = noteSent(last, standing(due));
      return gap / MIN;
    });
    expect(gaps).toEqual([2, 4, 8, 10, 10]);
    expect(dueAtMs(plan, last, fix(last.fix.atMs + 1, { speedMps: 3 })) - last.fix.atMs).toBe(2 * MIN);
    expect(noteSent(last, moving).standing).toBe(0);
  });
});
