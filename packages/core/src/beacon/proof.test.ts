import { placeAt } from '../geo/position.js';
import { nextToTry, placeOf, rateOf, yieldsBy, type SentBeacon } from './proof.js';

const HUT = { latitudeDeg: -29.632, longitudeDeg: -11.405 };
const CRAG = placeAt(HUT, 2, 300);
const PLACES = [
  { name: 'the hut', position: HUT, radiusM: 200 },
  { name: 'the crag', position: CRAG, radiusM: 500 },
];
const sent = (position: typeof HUT | undefined, by: (string | null)[], path = 'WIDE2-1'): SentBeacon => ({
  atMs: 0,
  path,
  echoes: by.map((call, i) => ({ by: call, afterMs: 900 + 100 * i })),
  ...(position ? { position } : {}),
});
const many = (count: number, one: SentBeacon): SentBeacon[] => Array<SentBeacon>(count).fill(one);
const atPlace = (beacon: SentBeacon): string | undefined => placeOf(beacon.position, PLACES);

describe('places', () => {
  it.each([
    [HUT, 'the hut'],
    [placeAt(HUT, 0.199, 0), 'the hut'],
    [placeAt(HUT, 0.201, 0), undefined],
    [placeAt(CRAG, 0.49, 90), 'the crag'],
    [undefined, undefined],
  ])('%o is %s', (position, name) => expect(placeOf(position, PLACES)).toBe(name));
});

describe('proof', () => {
  const beacons = [
    ...many(11, sent(HUT, [])),
    sent(HUT, ['QH1ANR']),
    ...many(7, sent(CRAG, ['QH1ANR', 'QH1TOP'])),
    ...many(2, sent(CRAG, [null])),
    sent(undefined, []),
  ];

  it('counts what was repeated, by whom and how soon; unrepeated echoes prove no repeater', () => {
    const [hut, crag, ...none] = yieldsBy(beacons, atPlace);
    expect(none).toEqual([]);
    expect(hut).toMatchObject({ key: 'the hut', repeated: { hits: 1, trials: 12 }, medianAfterMs: 900 });
    expect(crag).toMatchObject({
      key: 'the crag',
      repeated: { hits: 7, trials: 9 },
      by: [
        { call: 'QH1ANR', count: 7 },
        { call: 'QH1TOP', count: 7 },
      ],
    });
  });

  it('says in words what to try next', () =>
    expect(nextToTry(yieldsBy(beacons, atPlace), [])).toEqual([
      'Of 12 beacons at the hut one was repeated; of 9 at the crag 7 were repeated. Send from the crag where it matters.',
    ]));

  it('compares paths too', () => {
    const by = [...many(10, sent(HUT, [], '')), ...many(10, sent(HUT, ['QH1ANR']))];
    expect(
      nextToTry(
        [],
        yieldsBy(by, ({ path }) => path),
      ),
    ).toEqual(['By WIDE2-1 10 were repeated of 10, by no path none was repeated of 10: use the first.']);
  });

  it('says nothing that the numbers cannot tell, and something where nothing came back', () => {
    const few = yieldsBy([sent(HUT, []), sent(CRAG, ['QH1ANR'])], atPlace);
    expect(nextToTry(few, [])[0]).toMatch(/^The numbers cannot tell/);
    expect(nextToTry(yieldsBy(many(3, sent(HUT, [])), atPlace), [])[0]).toMatch(
      /^None of 3 beacons came back/,
    );
    expect(nextToTry([], [])).toEqual([]);
  });
});

describe('rates', () => {
  // Exact Poisson bounds (Garwood 1936): 0 → 0 to 3.689, 10 → 4.795 to 18.39, 100 → 81.36 to 121.6.
  it.each([
    [0, 0, 3.689],
    [10, 4.795, 18.39],
    [100, 81.36, 121.6],
  ])('of %i in an hour lie between %d and %d', (count, low, high) => {
    const rate = rateOf(count, 1);
    expect(rate.low).toBeCloseTo(low, 0);
    expect(Math.abs(rate.high / high - 1)).toBeLessThan(0.02);
    expect(rateOf(count, 2).perHour).toBe(count / 2);
  });

  it('without time says nothing', () => expect(rateOf(3, 0)).toEqual({ perHour: 0, low: 0, high: Infinity }));
});

it('counts those that were seen at a gate, however many gates heard them', () => {
  const beacon = (...gates: string[]): SentBeacon => ({
    atMs: 0,
    path: 'WIDE1-1',
    echoes: [],
    gates: gates.map((by) => ({ by })),
  });
  const { gates: _, ...old } = beacon();
  const [all] = yieldsBy([beacon('QH3PRT-10', 'QH1ANR'), beacon(), beacon('QH3PRT-10'), old], () => 'all');
  expect(all?.atGate).toBe(2);
});
