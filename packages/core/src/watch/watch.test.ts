import { placeAt, type Position } from '../geo/position.js';
import { metresOff } from './leg.js';
import { see, STANDS_WITHIN_M, UNSEEN, type Seen } from './sighting.js';
import { BACK_WITHIN, FARES, GRACE_MS, nextLookMs, standingOf } from './standing.js';
import { deskStep, emptyDesk, standings, type Desk, type DeskEffect, type DeskEvent } from './desk.js';
import type { Leg, Watched } from './watched.js';

const MINUTE = 60_000;
const HUT: Position = { latitudeDeg: -29.632, longitudeDeg: -11.405 };
const north = (km: number, from = HUT): Position => placeAt(from, km, 0);
const east = (km: number, from = HUT): Position => placeAt(from, km, 90);
const ROAD: Leg = { name: 'road', kind: 'route', points: [HUT, north(4), north(8)] };
const BAY: Leg = { name: 'bay', kind: 'area', points: [HUT, north(4), east(4, north(4)), east(4)] };

const watched = (more: Partial<Watched> = {}): Watched => ({
  call: 'QH7CTD-9',
  label: 'Cart D',
  group: 'carts',
  contact: '',
  everyMs: 5 * MINUTE,
  offM: 500,
  ...more,
});
const sightingOf = (one: Watched, ...packets: Seen[]) =>
  packets.reduce((known, seen) => see(known, one, seen), UNSEEN);

describe('off a leg', () => {
  it.each([
    ['on a route', ROAD, north(3), 0],
    ['beside a route', ROAD, east(1.2, north(3)), 1200],
    ['beyond its end', ROAD, north(9), 1000],
    ['within an area', BAY, east(1, north(2)), 0],
    ['outside of an area', BAY, placeAt(north(2), 0.7, 270), 700],
    ['of a route of one point', { ...ROAD, points: [HUT] }, east(2), 2000],
    ['of an area of two corners', { ...BAY, points: [HUT, north(4)] }, east(2, north(1)), 2000],
  ] as const)('%s', (_, leg, place, metres) => {
    // To half a percent: a sphere against the ellipsoid of the places.
    expect(Math.abs(metresOff(leg, place) - metres)).toBeLessThanOrEqual(metres * 0.006 + 1);
  });

  it('of nothing is nothing', () => expect(metresOff({ ...ROAD, points: [] }, HUT)).toBe(0));
});

describe('what was heard of one', () => {
  it('keeps arrivals in order, and of a late one nothing else', () => {
    const known = sightingOf(
      watched(),
      { atMs: 10, position: HUT },
      { atMs: 5, position: north(1), called: 'late' },
    );
    expect(known).toMatchObject({ arrivals: [5, 10], position: HUT });
    expect(known.called).toBeUndefined();
  });

  it('keeps the last 120 arrivals', () => {
    const many = Array.from({ length: 121 }, (_, i) => ({ atMs: i }));
    const { arrivals } = sightingOf(watched(), ...many);
    expect([arrivals.length, arrivals[0], arrivals.at(-1)]).toEqual([120, 1, 120]);
  });

  it('stands until it has moved on by more than a receiver wanders, or the position’s own doubt', () => {
    const near = north((STANDS_WITHIN_M - 1) / 1000);
    const far = north((STANDS_WITHIN_M + 1) / 1000);
    const after = (position: Position, doubtM = 0) =>
      sightingOf(watched(), { atMs: 0, position: HUT }, { atMs: 9, position, doubtM }).stands?.sinceMs;
    expect([after(near), after(far), after(far, 10)]).toEqual([0, 9, 0]);
  });

  it('has arrived once it was within the finish, for good', () => {
    const one = watched({ finish: { place: north(2), radiusM: 300 } });
    const packets = [
      { atMs: 1, position: north(1.6) },
      { atMs: 2, position: north(1.8) },
      { atMs: 3, position: HUT },
    ];
    expect(sightingOf(one, packets[0] as Seen).arrivedAtMs).toBeUndefined();
    expect(sightingOf(one, ...packets).arrivedAtMs).toBe(2);
  });

  it('gives a position that was sent with digits left out its doubt', () => {
    const one = watched({ leg: ROAD });
    const at = { atMs: 1, position: east(1, north(2)) };
    expect(sightingOf(one, at).offM).toBeGreaterThan(990);
    expect(sightingOf(one, { ...at, doubtM: 2000 }).offM).toBe(0);
  });
});

describe('how one stands', () => {
  const at = (one: Watched, seen: Seen[], nowMs: number, wasOff = false) =>
    standingOf(one, sightingOf(one, ...seen), { nowMs, begunMs: 0, wasOff });

  it.each([
    [5 * MINUTE + GRACE_MS - 1, 'fine'],
    [5 * MINUTE + GRACE_MS, 'waiting'],
    [10 * MINUTE + GRACE_MS - 1, 'waiting'],
    [10 * MINUTE + GRACE_MS, 'overdue'],
  ])('%i ms after the last packet of one expected every five minutes: %s', (nowMs, fare) => {
    expect(at(watched(), [{ atMs: 0 }], nowMs).fare).toBe(fare);
  });

  it('is judged by its own interval', () => {
    const rare = watched({ everyMs: 30 * MINUTE });
    expect(at(rare, [{ atMs: 0 }], 20 * MINUTE).fare).toBe('fine');
    expect(at(watched({ everyMs: MINUTE }), [{ atMs: 0 }], 20 * MINUTE).fare).toBe('overdue');
  });

  it('waits for the first packet from the beginning of the watch on', () => {
    expect(at(watched(), [], 10 * MINUTE).fare).toBe('unheard');
    expect(at(watched(), [], 10 * MINUTE + GRACE_MS).fare).toBe('overdue');
  });

  it('is late at a finish from the minute on, unless there', () => {
    const one = watched({ everyMs: 600 * MINUTE, finish: { place: north(2), radiusM: 300, dueAtMs: 1000 } });
    expect(at(one, [{ atMs: 0, position: HUT }], 999).fare).toBe('fine');
    expect(at(one, [{ atMs: 0, position: HUT }], 1000).fare).toBe('late');
    expect(at(one, [{ atMs: 0, position: north(2) }], 1000).fare).toBe('arrived');
  });

  it('whoever has arrived is neither overdue, off nor still', () => {
    const one = watched({ leg: ROAD, stillMs: 1, finish: { place: east(3), radiusM: 300 } });
    expect(at(one, [{ atMs: 0, position: east(3) }], 600 * MINUTE).needs).toEqual([]);
  });

  it('is off beyond what is allowed, and on again well within', () => {
    const one = watched({ leg: ROAD, offM: 500 });
    const beside = (metres: number) => [{ atMs: 0, position: east(metres / 1000, north(2)) }];
    expect(at(one, beside(495), 1).fare).toBe('fine');
    expect(at(one, beside(510), 1).fare).toBe('off');
    expect(at(one, beside(500 * BACK_WITHIN + 15), 1, true).fare).toBe('off');
    expect(at(one, beside(500 * BACK_WITHIN - 15), 1, true).fare).toBe('fine');
  });

  it('stands still for long enough, or is allowed to', () => {
    const here = [
      { atMs: 0, position: HUT },
      { atMs: 9 * MINUTE, position: HUT },
    ];
    expect(at(watched({ stillMs: 10 * MINUTE }), here, 10 * MINUTE - 1).fare).toBe('fine');
    expect(at(watched({ stillMs: 10 * MINUTE }), here, 10 * MINUTE).fare).toBe('still');
    expect(at(watched(), here, 10 * MINUTE).fare).toBe('fine');
  });

  it('tells the most urgent first', () => {
    const one = watched({ leg: ROAD, stillMs: MINUTE, finish: { place: north(8), radiusM: 1, dueAtMs: 1 } });
    const seen = [{ atMs: 0, position: east(3), called: 'wheel broken', isEmergency: true }];
    const { needs } = at(one, seen, 60 * MINUTE);
    expect(needs).toEqual(['emergency', 'called', 'overdue', 'late', 'off', 'still']);
    expect(FARES.slice(0, needs.length)).toEqual(needs);
  });

  it('the next look is when time alone changes it', () => {
    const one = watched({
      stillMs: 8 * MINUTE,
      finish: { place: north(9), radiusM: 1, dueAtMs: 20 * MINUTE },
    });
    const sighting = sightingOf(one, { atMs: 0, position: HUT });
    const looks: number[] = [];
    for (let nowMs = 0; nowMs < Infinity; nowMs = looks.at(-1) as number)
      looks.push(nextLookMs(one, sighting, { nowMs, begunMs: 0 }));
    expect(looks).toEqual([5 * MINUTE + GRACE_MS, 8 * MINUTE, 10 * MINUTE + GRACE_MS, 20 * MINUTE, Infinity]);
  });
});

/** A desk in operation, its looks by its own timer. */
class Operated {
  desk: Desk = emptyDesk(0);
  lookAtMs = Infinity;
  nowMs = 0;
  readonly told: string[] = [];

  take(event: DeskEvent): DeskEffect[] {
    const [desk, effects] = deskStep(this.desk, event, this);
    this.desk = desk;
    for (const effect of effects) {
      if (effect.kind === 'start') this.lookAtMs = this.nowMs + effect.ms;
      else if (effect.kind === 'stop') this.lookAtMs = Infinity;
      else this.told.push(`${effect.kind} ${effect.alarm.call} ${effect.alarm.need}`);
    }
    return [...effects];
  }

  until(atMs: number): void {
    while (this.lookAtMs <= atMs) {
      this.nowMs = this.lookAtMs;
      this.take({ kind: 'timer', timer: 'look' });
    }
    this.nowMs = atMs;
  }

  see(call: string, seen: Partial<Seen> = {}): void {
    this.take({ kind: 'seen', call, seen: { atMs: this.nowMs, ...seen } });
  }
}

describe('the desk', () => {
  const operated = (...list: Watched[]): Operated => {
    const bench = new Operated();
    bench.take({ kind: 'list', watched: list });
    return bench;
  };

  it('raises an alarm by itself when the time has come, and ends it with the next packet', () => {
    const bench = operated(watched());
    bench.see('QH7CTD-9');
    bench.until(10 * MINUTE + GRACE_MS - 1);
    expect(bench.told).toEqual([]);
    bench.until(10 * MINUTE + GRACE_MS);
    expect(bench.told).toEqual(['raised QH7CTD-9 overdue']);
    bench.see('QH7CTD-9');
    expect(bench.told.slice(1)).toEqual(['ended QH7CTD-9 overdue']);
    expect(bench.desk.alarms.size).toBe(0);
  });

  it('an alarm is acknowledged once, with a note, and stands on until its need ends', () => {
    const bench = operated(watched());
    bench.until(20 * MINUTE);
    const [alarm] = bench.desk.alarms.values();
    const acknowledge = { kind: 'acknowledge', id: alarm?.id ?? '', note: 'rang them' } as const;
    bench.take(acknowledge);
    bench.take({ ...acknowledge, note: 'again' });
    expect([...bench.desk.alarms.values()][0]?.acknowledged).toEqual({
      atMs: 20 * MINUTE,
      note: 'rang them',
    });
    expect(bench.told).toEqual(['raised QH7CTD-9 overdue', 'acknowledged QH7CTD-9 overdue']);
    bench.see('QH7CTD-9');
    bench.until(40 * MINUTE);
    expect(bench.told.slice(2)).toEqual(['ended QH7CTD-9 overdue', 'raised QH7CTD-9 overdue']);
    expect([...bench.desk.alarms.values()][0]?.acknowledged).toBeUndefined();
  });

  it('a word holds until it is acknowledged; the last one is shown', () => {
    const bench = operated(watched());
    bench.see('QH7CTD-9', { called: 'wheel broken' });
    bench.nowMs = MINUTE;
    bench.see('QH7CTD-9', { called: 'mended' });
    const [alarm] = bench.desk.alarms.values();
    expect(alarm).toMatchObject({ need: 'called', words: 'mended', raisedAtMs: 0 });
    bench.take({ kind: 'acknowledge', id: alarm?.id ?? '', note: '' });
    expect(bench.told).toEqual(['raised', 'acknowledged', 'ended'].map((kind) => `${kind} QH7CTD-9 called`));
  });

  it('an emergency holds until a packet says that it is over, acknowledged or not', () => {
    const bench = operated(watched());
    bench.see('QH7CTD-9', { isEmergency: true });
    bench.take({ kind: 'acknowledge', id: [...bench.desk.alarms.values()][0]?.id ?? '', note: 'on the way' });
    bench.see('QH7CTD-9', { isEmergency: true });
    bench.see('QH7CTD-9');
    expect(bench.desk.alarms.size).toBe(1);
    bench.see('QH7CTD-9', { isEmergency: false });
    expect(bench.told).toEqual(
      ['raised', 'acknowledged', 'ended'].map((kind) => `${kind} QH7CTD-9 emergency`),
    );
  });

  it('nobody else is its business, nor what was sent before it began', () => {
    const bench = new Operated();
    bench.nowMs = 1000;
    bench.take({ kind: 'list', watched: [watched()] });
    bench.take({ kind: 'begin', countsFromMs: 1000 });
    const before = bench.desk;
    bench.see('QH7CTA-9');
    bench.see('QH7CTD-9', { atMs: 999 });
    bench.take({ kind: 'acknowledge', id: 'none', note: '' });
    expect(bench.desk).toBe(before);
    bench.see('QH7CTD-9', { atMs: 1000 });
    expect(bench.desk.sightings.get('QH7CTD-9')?.arrivals).toEqual([1000]);
  });

  it('a changed list keeps what was heard, and judges the known place by the new leg', () => {
    const bench = operated(watched({ leg: ROAD }), watched({ call: 'QH7CTA-9' }));
    bench.see('QH7CTD-9', { position: east(3, north(2)) });
    expect(bench.told).toEqual(['raised QH7CTD-9 off']);
    bench.take({ kind: 'list', watched: [watched({ leg: BAY })] });
    expect(bench.told.slice(1)).toEqual(['ended QH7CTD-9 off']);
    expect(bench.desk.sightings.get('QH7CTD-9')?.arrivals).toHaveLength(1);
    bench.take({ kind: 'list', watched: [watched()] });
    expect(bench.desk.sightings.get('QH7CTD-9')?.offM).toBeUndefined();
    bench.take({ kind: 'begin', countsFromMs: 0 });
    expect(bench.desk.sightings.size).toBe(0);
  });

  it('counts what was heard shortly before it began, and misses whoever was not heard from its beginning on', () => {
    const bench = operated(watched(), watched({ call: 'QH7CTA-9' }));
    bench.nowMs = 60 * MINUTE;
    bench.take({ kind: 'begin', countsFromMs: 30 * MINUTE });
    bench.see('QH7CTD-9', { atMs: 40 * MINUTE });
    const [heard, unheard] = [...standings(bench.desk, bench.nowMs).values()];
    expect([heard?.fare, unheard?.fare]).toEqual(['overdue', 'unheard']);
  });

  it('what is recalled is judged as it is in the end', () => {
    const bench = operated(watched(), watched({ call: 'QH7CTA-9' }));
    bench.nowMs = 60 * MINUTE;
    bench.take({ kind: 'begin', countsFromMs: 0 });
    const packets = [10, 40, 58].map((minute) => ({ call: 'QH7CTD-9', seen: { atMs: minute * MINUTE } }));
    bench.take({ kind: 'recalled', packets: [...packets, { call: 'QH7CTZ-9', seen: { atMs: 1 } }] });
    expect(bench.told).toEqual([]);
    expect(bench.desk.sightings.get('QH7CTD-9')?.arrivals).toHaveLength(3);
    expect(bench.desk.sightings.has('QH7CTZ-9')).toBe(false);
  });

  it('who is taken off the list has no alarm any more, and an empty desk does not look', () => {
    const bench = operated(watched());
    bench.until(20 * MINUTE);
    bench.take({ kind: 'list', watched: [] });
    expect(bench.told).toEqual(['raised QH7CTD-9 overdue', 'ended QH7CTD-9 overdue']);
    expect(bench.lookAtMs).toBe(Infinity);
  });

  it('looks every minute even when nothing is due, so that a clock put right is noticed', () => {
    const bench = operated(watched({ everyMs: 24 * 60 * MINUTE }));
    expect(bench.lookAtMs).toBe(MINUTE);
  });

  it.each(Array.from({ length: 40 }, (_, seed) => seed + 1))(
    'by seed %i: packets lost, doubled and out of order leave one alarm a need, raised and ended in turn, never past its time',
    (seed) => {
      let state = seed;
      const dice = (): number => {
        state = (state * 48271) % 2147483647;
        return state / 2147483647;
      };
      const list = ['QH7CTA-9', 'QH7CTB-9', 'QH7CTC-9'].map((call, i) =>
        watched({ call, everyMs: (i + 1) * MINUTE, leg: i === 1 ? BAY : ROAD, stillMs: 7 * MINUTE }),
      );
      const bench = operated(...list);
      for (let i = 0; i < 300; i++) {
        bench.until(bench.nowMs + dice() * 2 * MINUTE);
        const { call } = list[Math.floor(dice() * list.length)] as Watched;
        const seen = {
          atMs: bench.nowMs - (dice() < 0.2 ? dice() * 3 * MINUTE : 0),
          ...(dice() < 0.8 ? { position: placeAt(HUT, dice() * 5, dice() * 90) } : {}),
          ...(dice() < 0.05 ? { called: 'hello' } : {}),
          ...(dice() < 0.1 ? { isEmergency: dice() < 0.5 } : {}),
        };
        for (let copies = dice() < 0.1 ? 2 : 1; copies > 0; copies--) bench.see(call, seen);
        const alarms = [...bench.desk.alarms.values()];
        const some = alarms[Math.floor(dice() * alarms.length)];
        if (some && dice() < 0.3) bench.take({ kind: 'acknowledge', id: some.id, note: 'x' });
        const held = [...standings(bench.desk, bench.nowMs)].flatMap(([who, { needs }]) =>
          needs.map((need) => `${who} ${need}`),
        );
        expect([...bench.desk.alarms.keys()].sort()).toEqual(held.sort());
        expect(Math.round(bench.lookAtMs - bench.nowMs)).toBeLessThanOrEqual(MINUTE);
      }
      const open = new Set<string>();
      for (const line of bench.told) {
        const [kind, ...rest] = line.split(' ');
        const key = rest.join(' ');
        if (kind === 'raised') expect(open.has(key)).toBe(false);
        else expect(open.has(key)).toBe(true);
        if (kind === 'raised') open.add(key);
        if (kind === 'ended') open.delete(key);
      }
    },
  );
});
