import type { Position } from '../geo/position.js';
import { facilityOf, type Facility, type FacilityFacts, type Source } from './facility.js';
import { listAges } from './list-age.js';
import type { Attempt } from './rank.js';
import { byDistance, byHour, bySeason } from './success.js';

const SOURCE: Source = { by: 'file', name: 'list.csv', atMs: 1000 };
const facts = (call: string, frequencyMHz: number, more: Partial<FacilityFacts> = {}): FacilityFacts => ({
  ...{ kind: 'mail gateway', call, frequencyMHz, mode: '', hours: '', notes: '' },
  ...more,
});

describe('what tries say', () => {
  const at = (month: number, more: Partial<Attempt> = {}): Attempt => ({
    ...{ call: 'QH5VEL-10', answered: true, hour: 12, atMs: Date.UTC(2026, month - 1, 15) },
    ...more,
  });
  const SOUTH = { latitudeDeg: -29.6, longitudeDeg: -11.4 };

  it('by hour of the day, in parts of four', () => {
    const tries = [
      at(1, { hour: 3 }),
      at(1, { hour: 4 }),
      at(1, { hour: 7, answered: false }),
      at(1, { hour: 23 }),
    ];
    expect(byHour(tries)).toEqual([
      { part: '00–04', tries: 1, answers: 1 },
      { part: '04–08', tries: 2, answers: 1 },
      { part: '20–24', tries: 1, answers: 1 },
    ]);
  });

  it('by season, which is another one south of the equator', () => {
    const months = [12, 2, 3, 5, 6, 8, 9, 11];
    const north = (month: number) => bySeason([at(month)], { latitudeDeg: 0, longitudeDeg: 0 })[0]?.part;
    const south = (month: number) => bySeason([at(month)], SOUTH)[0]?.part;
    expect(months.map(north)).toEqual([
      'winter',
      'winter',
      'spring',
      'spring',
      'summer',
      'summer',
      'autumn',
      'autumn',
    ]);
    expect(months.map(south)).toEqual([
      'summer',
      'summer',
      'autumn',
      'autumn',
      'winter',
      'winter',
      'spring',
      'spring',
    ]);
    expect(bySeason([at(1, { from: { latitudeDeg: 50, longitudeDeg: 0 } })], SOUTH)[0]?.part).toBe('winter');
  });

  it('by distance, near ones first; what nobody can place is left out', () => {
    const placeOf = (call: string): Position | undefined => (call === 'QH5VEL-10' ? SOUTH : undefined);
    const from = (km: number) => ({ from: { ...SOUTH, latitudeDeg: SOUTH.latitudeDeg + km / 111 } });
    const tries = [
      at(1, from(5000)),
      at(1, from(120)),
      at(1, { ...from(110), answered: false }),
      at(1, from(3)),
    ];
    const others = [at(1), at(1, { ...from(3), call: 'QH5OST-10' })];
    expect(byDistance([...tries, ...others], placeOf)).toEqual([
      { part: 'under 25 km', tries: 1, answers: 1 },
      { part: '100–300 km', tries: 2, answers: 1 },
      { part: 'over 3000 km', tries: 1, answers: 1 },
    ]);
  });
});

describe('how old lists are', () => {
  const DAY = 86_400_000;
  const listed = (call: string, source: Source, more: Partial<FacilityFacts> = {}): Facility =>
    facilityOf(facts(call, 7.1, more), source);
  const ages = (directory: readonly Facility[], nowMs: number) =>
    listAges(directory, { nowMs, octetsPerSecond: 40 });

  it('plain lists after half a year, predictions after a month; what was heard is no list', () => {
    const plain = listed('QH5VEL-10', SOURCE);
    const hf = listed('QH5COR', { ...SOURCE, name: 'hf.csv' }, { reliabilityPercent: 80 });
    const heard = listed('QH5OST-10', { by: 'heard', name: '', atMs: 0 });
    const old = (days: number) =>
      ages([plain, hf, heard], 1000 + days * DAY).map(({ name, isOld }) => [name, isOld]);
    expect(old(30)).toEqual([
      ['hf.csv', false],
      ['list.csv', false],
    ]);
    expect(old(30.1)).toEqual([
      ['hf.csv', true],
      ['list.csv', false],
    ]);
    expect(old(180)).toEqual([
      ['hf.csv', true],
      ['list.csv', false],
    ]);
    expect(old(180.1)).toEqual([
      ['hf.csv', true],
      ['list.csv', true],
    ]);
  });

  it('what asking anew by radio costs, and the last time that it came', () => {
    const many = Array.from({ length: 150 }, (_, i) =>
      listed(`QH5VEL-${i % 16}`, i === 0 ? { ...SOURCE, atMs: 5000 } : SOURCE),
    );
    // By hand: 150 lines of 32 octets at 40 octets/s are 120 s.
    expect(ages(many, 5000)).toMatchObject([
      { name: 'list.csv', facilities: 150, atMs: 5000, days: 0, refreshMinutes: 2 },
    ]);
  });
});
