import fc from 'fast-check';
import { byTime, isWished, type Entry } from './entry.js';
import { AREAS, differences, inWords, type Fact, type Moment } from './moment.js';
import { isOnTrip, sumOf, tripMarkdown, type Trip } from './trip.js';

const entry = (atMs: number, more: Partial<Entry> = {}): Entry => ({
  ...{ id: `${atMs}`, kind: 'trial', atMs, what: 'QH5VEL-10', words: 'answered' },
  ...more,
});

describe('an entry that is wished for', () => {
  const one = entry(Date.UTC(2026, 9, 12, 14, 5), { tag: 'MP-7F3', ok: true });
  const wish = { kinds: [], words: '' };

  it('by kind, by how it went, by all words anywhere in it', () => {
    expect(isWished(one, wish)).toBe(true);
    expect(isWished(one, { ...wish, kinds: ['trial', 'note'] })).toBe(true);
    expect(isWished(one, { ...wish, kinds: ['note'] })).toBe(false);
    expect(isWished(one, { ...wish, ok: true })).toBe(true);
    expect(isWished(one, { ...wish, ok: false })).toBe(false);
    expect(isWished(entry(1), { ...wish, ok: false })).toBe(false);
    for (const words of ['vel answered', 'mp-7f3', '2026-10-12', '14:05', 'TRIAL'])
      expect(isWished(one, { ...wish, words })).toBe(true);
    expect(isWished(one, { ...wish, words: 'vel silent' })).toBe(false);
  });

  it('newest first, and of one time always in the same order', () => {
    const [a, b, c] = [entry(1, { id: 'a' }), entry(1, { id: 'b' }), entry(2, { id: 'c' })];
    expect([a, b, c].sort(byTime)).toEqual([c, b, a]);
    expect([b, c, a].sort(byTime)).toEqual([c, b, a]);
    expect(byTime(a, a)).toBe(0);
  });
});

describe('two moments', () => {
  const fact = (area: Fact['area'], of: string, name: string, value: string): Fact => ({
    area,
    of,
    name,
    value,
  });
  const worked: Moment = [
    fact('switch', 'Handheld', 'KISS', 'on'),
    fact('firmware', 'Handheld', 'version', '1.4'),
    fact('level', 'USB modem', 'receive', '-18 dBFS'),
    fact('place', '', 'place', 'IG40hi'),
    fact('link', 'TNC', 'TXDELAY', '300 ms'),
  ];

  it('what is otherwise, the most suspect first', () => {
    const now: Moment = [
      fact('switch', 'Handheld', 'KISS', 'off'),
      fact('firmware', 'Handheld', 'version', '1.5'),
      fact('level', 'USB modem', 'receive', '-18 dBFS'),
      fact('place', '', 'place', 'IG40ab'),
      fact('channel', '', 'frequency', '144.800 MHz'),
    ];
    expect(differences(worked, now).map(inWords)).toEqual([
      'frequency: 144.800 MHz (new)',
      'Handheld, KISS: on → off',
      'TNC, TXDELAY: no more (was 300 ms)',
      'Handheld, version: 1.4 → 1.5',
      'place: IG40hi → IG40ab',
    ]);
  });

  it('a level that wanders is not suspected; by hand: 3 dB of 6 is half, 6 dB and more is all of it', () => {
    const at = (value: string) =>
      differences(worked, [
        ...worked.filter(({ area }) => area !== 'level'),
        fact('level', 'USB modem', 'receive', value),
      ]);
    expect(at('-19.4 dBFS')).toEqual([]);
    expect(at('-19.5 dBFS')[0]?.suspicion).toBeCloseTo(1.5, 9);
    expect(at('-21 dBFS')[0]?.suspicion).toBeCloseTo(3, 9);
    expect(at('-12 dBFS')[0]?.suspicion).toBe(6);
    expect(at('-40 dBFS')[0]?.suspicion).toBe(6);
    expect(at('clipped')[0]?.suspicion).toBe(6);
  });

  const moments = fc.uniqueArray(
    fc.record({
      area: fc.constantFrom(...AREAS),
      of: fc.constantFrom('a', 'b'),
      name: fc.constantFrom('x', 'y'),
      value: fc.constantFrom('1', '2', '30'),
    }),
    { selector: ({ area, of, name }) => `${area} ${of} ${name}` },
  );

  it('of itself there is none; backwards the same, sides exchanged', () => {
    fc.assert(
      fc.property(moments, moments, (one, other) => {
        expect(differences(one, one)).toEqual([]);
        const turned = differences(other, one).map(({ before, after, ...rest }) => ({
          ...rest,
          ...(after === undefined ? {} : { before: after }),
          ...(before === undefined ? {} : { after: before }),
        }));
        expect(new Set(differences(one, other).map((d) => JSON.stringify(Object.entries(d).sort())))).toEqual(
          new Set(turned.map((d) => JSON.stringify(Object.entries(d).sort()))),
        );
        const suspicions = differences(one, other).map(({ suspicion }) => suspicion);
        expect(suspicions).toEqual([...suspicions].sort((a, b) => b - a));
      }),
      { numRuns: 200 },
    );
  });
});

describe('a trip', () => {
  const HOUR = 3_600_000;
  const trip: Trip = { name: 'Corvel crag', fromMs: 10 * HOUR, toMs: 34 * HOUR, place: 'IG40', better: '' };
  const entries = [
    entry(12 * HOUR, { kind: 'session', ok: true, what: 'QH2HUT-1', words: 'letters read' }),
    entry(11 * HOUR, { kind: 'trial', ok: false, what: 'Handheld', words: 'no answer' }),
    entry(13 * HOUR, { kind: 'note', what: 'Note', words: 'wind from *west*\n# loud' }),
    entry(13.5 * HOUR, { kind: 'change', ok: true, what: 'Handheld', words: 'KISS: off → on' }),
    entry(34 * HOUR + 1, { ok: true }),
    entry(10 * HOUR - 1, { ok: true }),
  ];
  const call = (name: string, atMs: number, answered: boolean) => ({ call: name, atMs, answered });
  const calls = [
    call('QH5SAL-10', 12 * HOUR, false),
    call('QH5VEL-10', 12 * HOUR, true),
    call('QH5VEL-10', 13 * HOUR, false),
    call('QH5OST-10', 14 * HOUR, true),
    call('QH5OST-10', 35 * HOUR, true),
  ];

  it('has both its ends within it', () => {
    expect([10, 34].map((hour) => isOnTrip(trip, hour * HOUR))).toEqual([true, true]);
    expect(isOnTrip({ ...trip, toMs: undefined } as unknown as Trip, 1e15)).toBe(true);
  });

  it('what it came to: who answered first, what worked, what did not', () => {
    const sum = sumOf(trip, entries, calls, 40 * HOUR);
    expect(sum.hours).toBe(24);
    expect(sum.reached).toEqual([
      { call: 'QH5OST-10', answers: 1, tries: 1 },
      { call: 'QH5VEL-10', answers: 1, tries: 2 },
      { call: 'QH5SAL-10', answers: 0, tries: 1 },
    ]);
    expect(sum.worked.map(({ what }) => what)).toEqual(['QH2HUT-1']);
    expect(sum.failed.map(({ words }) => words)).toEqual(['no answer']);
    expect(sum.counts).toEqual({ trial: 1, session: 1, note: 1, change: 1 });
    const { toMs: _, ...open } = trip;
    expect(sumOf(open, entries, calls, 13 * HOUR).hours).toBe(3);
    expect(sumOf(open, entries, calls, 5 * HOUR).hours).toBe(0);
  });

  it('as Markdown, in which no text of others is a heading or a mark', () => {
    const text = tripMarkdown({ ...trip, better: 'more rope' }, sumOf(trip, entries, calls, 40 * HOUR));
    expect(text.split('\n').slice(0, 4)).toEqual([
      '# Corvel crag',
      '',
      '1970-01-01 10:00 to 1970-01-02 10:00 UTC, IG40',
      '',
    ]);
    expect(text).toContain('| QH5VEL-10 | 1 | 2 |');
    expect(text).toContain('- 1970-01-01 13:00 **Note** wind from \\*west\\* \\# loud');
    expect(text).toMatch(/## To do better\n\nmore rope\n$/);
    const empty = tripMarkdown(trip, sumOf(trip, [], [], 0));
    expect(empty).not.toMatch(/##/);
  });
});
