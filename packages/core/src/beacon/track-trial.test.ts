import { placeAt } from '../geo/position.js';
import { USUAL_PLANS, type BeaconPlan } from './plan.js';
import { findFigures, timedTrack, tryPlan } from './track-trial.js';

const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
const MIN = 60_000;

/** An hour: east at 10 m/s for half of it, then north. */
const corner = placeAt(HERE, 18, 90);
const L = [
  { atMs: 0, position: HERE },
  { atMs: 30 * MIN, position: corner },
  { atMs: 60 * MIN, position: placeAt(corner, 18, 0) },
];
const every = (minutes: number): BeaconPlan => ({ kind: 'interval', everyMs: minutes * MIN });

describe('a plan on a track', () => {
  it('falls by the interval, the first at once', () => {
    const { beacons, perHour, hours } = tryPlan(L, every(10));
    expect(beacons.map(({ atMs }) => atMs / MIN)).toEqual([0, 10, 20, 30, 40, 50, 60]);
    expect([hours, perHour]).toEqual([1, 7]);
  });

  // arithmetic: beacons at 20 and 40 min cut the corner of two legs of 6 km: it lies 6·√2/2 km off the line between them.
  it('draws a line whose greatest error is the cut corner', () => {
    const { greatestErrorM, rmsErrorM, errors } = tryPlan(L, every(20));
    expect(greatestErrorM / 1000).toBeCloseTo((6 * Math.SQRT2) / 2, 1);
    // arithmetic: a third of the hour lies under a triangle of that height: RMS = h/√3·√(1/3).
    expect(rmsErrorM / 1000).toBeCloseTo((6 * Math.SQRT2) / 2 / Math.sqrt(3) / Math.sqrt(3), 1);
    expect(errors.length).toBeLessThanOrEqual(601);
    const worst = errors.reduce((a, b) => (b.errorM > a.errorM ? b : a));
    expect(Math.abs(worst.atMs - 30 * MIN)).toBeLessThan(10_000);
  });

  it('a beacon at the corner makes it exact', () =>
    expect(tryPlan(L, every(30)).greatestErrorM).toBeLessThan(5));

  it('behind the last beacon the error is the way that has been gone since', () => {
    expect(tryPlan(L.slice(0, 2), { kind: 'once' }).greatestErrorM / 1000).toBeCloseTo(18, 1);
  });

  it('by speed and turn beacons at the corner', () => {
    const { beacons } = tryPlan(L, { ...USUAL_PLANS['speed-and-turn'], fastEveryMs: 8 * MIN });
    expect(beacons.some(({ atMs }) => Math.abs(atMs - 30 * MIN) <= 2000)).toBe(true);
  });

  it('tells courses all round', () => {
    for (const bearing of [45, 135, 225, 315]) {
      const there = placeAt(HERE, 10, bearing);
      const way = [L[0], { atMs: 30 * MIN, position: there }] as typeof L;
      const [first] = tryPlan(way, every(10)).beacons;
      expect(Math.abs((first?.courseDeg ?? 0) - bearing)).toBeLessThan(1);
      expect(first?.speedMps).toBeCloseTo(10_000 / 1800, 1);
    }
  });

  it('keeps the least gap', () => {
    const { beacons } = tryPlan(L, { kind: 'distance', everyM: 10, longestMs: MIN }, 60_000);
    expect(beacons).toHaveLength(61);
  });

  it('of one point is no track', () => expect(() => tryPlan(L.slice(0, 1), every(1))).toThrow(RangeError));
});

describe('a track from a file', () => {
  it('keeps its times from the first on, and leaves out what goes back', () => {
    const at = (atMs: number) => ({ ...HERE, atMs });
    expect(timedTrack([at(5000), at(7000), at(6000), at(9000)]).map(({ atMs }) => atMs)).toEqual([
      0, 2000, 4000,
    ]);
  });

  it('of two points with times keeps them', () =>
    expect(
      timedTrack([
        { ...HERE, atMs: 5 },
        { ...HERE, atMs: 9 },
      ]).map(({ atMs }) => atMs),
    ).toEqual([0, 4]));

  it('without times is walked', () => {
    const timed = timedTrack([HERE, placeAt(HERE, 1.4, 10), placeAt(HERE, 1.4, 10)]);
    expect(timed).toHaveLength(2);
    expect((timed[1]?.atMs as number) / 1000).toBeCloseTo(1000, -1);
  });

  it('of half a year is looked at in as many steps', () => {
    const long = [L[0], { atMs: 180 * 86_400_000, position: corner }] as typeof L;
    expect(tryPlan(long, every(60 * 24)).beacons).toHaveLength(181);
  });
});

describe('figures that keep what is wanted', () => {
  it('take the fewest beacons within the error', () => {
    const found = findFigures(L, USUAL_PLANS.interval, { errorM: 800 });
    // The corner lies on a beacon of each of these; the longest is the cheapest.
    expect(found?.trial.greatestErrorM).toBeLessThanOrEqual(800);
    expect(found?.plan).toMatchObject({ kind: 'interval', everyMs: 10 * MIN });
  });

  it('take the least error within a budget', () => {
    const found = findFigures(L, USUAL_PLANS['speed-and-turn'], { perHour: 12 });
    expect(found?.trial.perHour).toBeLessThanOrEqual(12);
    const usual = tryPlan(L, USUAL_PLANS['speed-and-turn']);
    expect(usual.perHour).toBeLessThanOrEqual(12);
    expect(found?.trial.greatestErrorM).toBeLessThan(usual.greatestErrorM);
  });

  it.each([
    ['interval', { everyMs: 20 * MIN }],
    ['decaying', { movingEveryMs: 20 * MIN }],
    ['distance', { everyM: 2000 }],
    ['speed-and-turn', { fastEveryMs: 20 * MIN, leastTurnDeg: 40, turnSlope: 500 }],
  ] as const)('of %s are tried up to the seldomest, where any error will do', (kind, figures) => {
    // Two turns, of 30 and of 60 degrees, so that each threshold costs a beacon more.
    const bent = placeAt(HERE, 6, 90);
    const again = placeAt(bent, 6, 60);
    const way = [
      { atMs: 0, position: HERE },
      { atMs: 10 * MIN, position: bent },
      { atMs: 20 * MIN, position: again },
      { atMs: 60 * MIN, position: placeAt(again, 24, 0) },
    ];
    const found = findFigures(way, USUAL_PLANS[kind], { errorM: 1e9 });
    expect(found?.trial.beacons.length).toBe(
      tryPlan(way, { ...USUAL_PLANS[kind], ...figures }).beacons.length,
    );
  });

  it('are none where nothing keeps it', () =>
    expect(findFigures(L, USUAL_PLANS.once, { errorM: 1 })).toBeUndefined());
});
