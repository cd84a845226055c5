import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import { channelsCsv } from './channels.js';
import { guessMapping, isLeftOut, readList, readRows, type ColumnMapping, type Rows } from './columns.js';
import { facilityOf, type Facility, type FacilityFacts, type Source } from './facility.js';
import { decide, merge } from './merge.js';
import { openAt, rank, type Attempt } from './rank.js';
import { recognise } from './recognise.js';

const SOURCE: Source = { by: 'file', name: 'list.csv', atMs: 1000 };
const LATER: Source = { by: 'mail', name: 'a letter', atMs: 2000 };
const facts = (call: string, frequencyMHz: number, more: Partial<FacilityFacts> = {}): FacilityFacts => ({
  ...{ kind: 'mail gateway', call, frequencyMHz, mode: '', hours: '', notes: '' },
  ...more,
});
const rowsOf = (text: string): Rows => {
  const rows = readRows(text);
  if (isMalformed(rows)) throw new Error(rows.malformed);
  return rows;
};
const listOf = (text: string, mapping?: ColumnMapping) => {
  const rows = rowsOf(text);
  return readList(rows, mapping ?? guessMapping(rows.columns), 'mail gateway');
};

describe('a list from a file', () => {
  it('is read by what its columns are usually called', () => {
    const csv =
      'Callsign,Frequency (MHz),Grid,Mode,Hours,Note\r\nqh5vel-10,144.85,IG40,Packet 1200,07-22,"up, on the ridge"\r\n';
    expect(guessMapping(rowsOf(csv).columns)).toEqual({
      Callsign: 'call',
      'Frequency (MHz)': 'MHz',
      Grid: 'place',
      Mode: 'mode',
      Hours: 'hours',
      Note: 'notes',
    });
    expect(listOf(csv)).toEqual([
      facts('QH5VEL-10', 144.85, {
        mode: 'Packet 1200',
        hours: '07-22',
        notes: 'up, on the ridge',
        position: expect.objectContaining({ latitudeDeg: expect.closeTo(-29.5, 9) as number }) as Position,
      }),
    ]);
  });

  it('with semicolons and decimal commas, an SSID of its own, kilohertz, degrees, numbers as JSON', () => {
    expect(listOf('call;ssid;freq_khz;lat;lon;height\nQH5OST;10;144875,0;-29,5;-11,25;12')).toEqual([
      facts('QH5OST-10', 144.875, { position: { latitudeDeg: -29.5, longitudeDeg: -11.25 }, heightM: 12 }),
    ]);
    expect(
      listOf(
        '{"channels":[{"callsign":"QH5SAL-10","frequency":144900000,"tone":94.8,"reliability":80,"quality":140}]}',
      ),
    ).toEqual([facts('QH5SAL-10', 144.9, { toneHz: 94.8, reliabilityPercent: 80 })]);
  });

  it('as the operator maps it, whatever its names say', () => {
    expect(listOf('a,b,c\nQH2HUT-1,145000,bbs', { a: 'call', b: 'kHz', c: 'kind' })).toEqual([
      facts('QH2HUT-1', 145, { kind: 'mailbox' }),
    ]);
  });

  it.each([
    ['call,mhz\n,144.85', 'no call'],
    ['call,mhz\n!!,144.85', '“!!” is no call'],
    ['call,mhz\nQH5VEL-10,', 'no frequency'],
    ['call,mhz\nQH5VEL-10,0.5', '0.5 MHz is no frequency of a radio'],
  ])('%j: a row is left out with its reason', (csv, why) => {
    const [read] = listOf(`${csv}\nQH5OST-10,144.9`);
    expect(read && isLeftOut(read) && read).toEqual({ row: 1, why });
    expect(listOf(`${csv}\nQH5OST-10,144.9`)).toHaveLength(2);
  });

  it.each(['', 'one column\nx', '{"a": 1}', '[1, 2]', '{broken'])('%j is no list', (text) =>
    expect(isMalformed(readRows(text))).toBe(true),
  );

  it('broken quotes and any junk are read to the end', () => {
    expect(isMalformed(readRows('call,mhz\n"QH5VEL-10,144.85\nQH5OST-10,144.9'))).toBe(false);
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (junk) => {
        const rows = readRows(`call,mhz\n${junk}`);
        if (!isMalformed(rows)) readList(rows, guessMapping(rows.columns), 'node');
        recognise(junk);
      }),
    );
  });
});

describe('pasted text', () => {
  it('calls, frequencies and locators, each beside its call', () => {
    const found = recognise(
      'Try QH5VEL-10 on 144.850 MHz (IG40gj)\nQH5OST-10: 144,875\n\nno call here 144.8\nsee you',
    );
    expect(found.map(({ call, frequencyMHz, locator }) => [call, frequencyMHz, locator])).toEqual([
      ['QH5VEL-10', 144.85, 'IG40GJ'],
      ['QH5OST-10', 144.875, undefined],
    ]);
    expect(found[0]?.position?.latitudeDeg).toBeCloseTo(-29.604, 2);
  });

  it('words of the Q code are no calls', () =>
    expect(recognise('QH5VEL-10 QRV on 144.850, QSY or QRT').map(({ call }) => call)).toEqual(['QH5VEL-10']));

  it('what stands on the next line belongs to the call before it', () => {
    const [one] = recognise('QH5SAL-10\n  7102 kHz, IG40');
    expect(one).toMatchObject({ call: 'QH5SAL-10', frequencyMHz: 7.102, locator: 'IG40' });
    expect(one?.line).toBe('QH5SAL-10 / 7102 kHz, IG40');
  });

  it('numbers that are no frequencies of amateurs are none', () => {
    expect(recognise('QH5SAL-10 has 25 W, 12 m, since 2019').map(({ frequencyMHz }) => frequencyMHz)).toEqual(
      [undefined],
    );
    expect(recognise('QH5SAL-10 3590.5')[0]?.frequencyMHz).toBe(3.5905);
  });
});

describe('merging', () => {
  const known = facilityOf(facts('QH5VEL-10', 144.85, { hours: '07-22', notes: 'ridge' }), SOURCE);

  it('adds what is new, completes what is there, and keeps what is known where they differ', () => {
    const told = [
      facts('QH5VEL-10', 144.851, { hours: '08-20', mode: 'packet 1200', notes: 'Ridge ' }),
      facts('QH5VEL-10', 144.9),
    ];
    const { directory, added, completed, conflicts } = merge([known], told, LATER);
    expect([added, completed, directory.length]).toEqual([1, 1, 2]);
    expect(directory[0]).toMatchObject({ hours: '07-22', mode: 'packet 1200', notes: 'ridge' });
    // Told alike: of later now. Told otherwise: of whom it was.
    expect(directory[0]?.sources).toMatchObject({ notes: LATER, mode: LATER, hours: SOURCE });
    expect(conflicts).toEqual([
      {
        call: 'QH5VEL-10',
        frequencyMHz: 144.85,
        fact: 'hours',
        known: '07-22',
        told: '08-20',
        knownBy: SOURCE,
      },
    ]);
    const [decided] = decide(directory, conflicts[0]!, LATER);
    expect(decided).toMatchObject({ hours: '08-20', sources: { hours: LATER } });
  });

  it('notes contradict nothing: both stand there, once, as far as there is room', () => {
    const notesAfter = (notes: string): string | undefined => {
      const { directory, conflicts } = merge([known], [facts('QH5VEL-10', 144.85, { notes })], LATER);
      expect(conflicts).toEqual([]);
      return directory[0]?.notes;
    };
    expect(notesAfter('valley')).toBe('ridge; valley');
    expect(notesAfter('idge')).toBe('ridge');
    expect(notesAfter('x'.repeat(193))).toBe(`ridge; ${'x'.repeat(193)}`);
    expect(notesAfter('x'.repeat(194))).toBe('ridge');
  });

  it('2.5 kHz apart is another; a place written less finely is the same', () => {
    expect(merge([known], [facts('QH5VEL-10', 144.8526)], LATER).added).toBe(1);
    expect(merge([known], [facts('QH5VEL-10', 144.8524)], LATER).added).toBe(0);
    const placed = facilityOf(
      facts('QH2NOD-4', 145, { position: { latitudeDeg: -29.6, longitudeDeg: -11.4 } }),
      SOURCE,
    );
    const at = (latitudeDeg: number) =>
      merge([placed], [facts('QH2NOD-4', 145, { position: { latitudeDeg, longitudeDeg: -11.4 } })], LATER)
        .conflicts;
    expect(at(-29.64)).toEqual([]);
    expect(at(-29.66)).toHaveLength(1);
  });

  it('the same list twice changes nothing', () => {
    const list = Array.from({ length: 300 }, (_, i) =>
      facts(`QH5V${String.fromCharCode(65 + (i % 26))}-${i % 16}`, 144 + i * 0.01),
    );
    const once = merge([], list, SOURCE);
    const twice = merge(once.directory, list, SOURCE);
    expect([twice.added, twice.conflicts]).toEqual([0, []]);
    expect(twice.directory).toEqual(once.directory);
  });
});

describe('the order to call in', () => {
  const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
  const near = facilityOf(
    facts('QH5SAL-10', 144.85, { position: { latitudeDeg: -29.61, longitudeDeg: -11.4 } }),
    SOURCE,
  );
  const far = facilityOf(
    facts('QH5VEL-10', 144.9, { position: { latitudeDeg: -29.6, longitudeDeg: -11.1 } }),
    SOURCE,
  );
  const NOW = Date.UTC(2026, 9, 12, 12);
  const tried = (call: string, answered: boolean, daysAgo: number, hour = 12): Attempt => ({
    ...{ call, answered, hour },
    atMs: NOW - daysAgo * 86_400_000,
  });
  const order = (
    attempts: readonly Attempt[],
    chance: (one: Facility) => number | undefined = () => undefined,
    hour = 12,
  ) => rank([far, near], { here: HERE, nowMs: NOW, hour, attempts, chanceOver: chance });

  it('by distance where nothing else is known, and says that it says little', () => {
    const [first, second] = order([]);
    expect([first?.facility.call, second?.facility.call]).toEqual(['QH5SAL-10', 'QH5VEL-10']);
    expect(first?.why).toBe('never tried, by its distance alone, which says little');
    expect(second?.bearingDeg).toBeCloseTo(90, 0);
    // 29 km: 1/(1 + (29/25)²).
    expect(second?.chance).toBeCloseTo(1 / (1 + ((second?.distanceKm ?? 0) / 25) ** 2), 9);
  });

  it('the silent near one sinks', () => {
    const attempts = [
      ...[1, 2, 3].map((days) => tried('QH5SAL-10', false, days)),
      tried('QH5VEL-10', true, 1),
    ];
    const [first, second] = order(attempts);
    expect(first?.facility.call).toBe('QH5VEL-10');
    expect(second?.why).toMatch(/^silent in 3 tries/);
    expect(first).toMatchObject({ tries: 1, answers: 1, lastAnsweredMs: NOW - 86_400_000 });
  });

  it('the ground counts before the distance', () => {
    const [first, second] = order([], ({ call }) => (call === 'QH5SAL-10' ? 0.1 : 0.8));
    expect(first?.facility.call).toBe('QH5VEL-10');
    expect([first?.why, second?.why]).toEqual([
      'never tried, in reach over the ground',
      'never tried, behind the ground',
    ]);
  });

  it('how the ground is told, by its chance', () => {
    const words = [0.7, 0.69, 0.3, 0.29].map((chance) => order([], () => chance)[0]?.why);
    expect(words).toEqual(
      ['in reach over', 'at the edge of reach over', 'at the edge of reach over', 'behind'].map(
        (one) => `never tried, ${one} the ground`,
      ),
    );
  });

  it('by hand: chance 0.5 over the ground, of which three in four answer, as two tries, one answer of today, one silence of 60 days ago at another hour', () => {
    const attempts = [tried('QH5VEL-10', true, 0), tried('QH5VEL-10', false, 60, 4)];
    const [one] = rank([far], { here: HERE, nowMs: NOW, hour: 12, attempts, chanceOver: () => 0.5 });
    expect(one?.chance).toBeCloseTo((2 * 0.375 + 1) / (2 + 1 + 0.25), 9);
  });

  it.each([
    [0, 1],
    [60, 0.5],
    [180, 0.125],
    [365.25, 0.25],
    [365.25 - 30, 0.125],
    [365.25 + 60, 0.0625],
    [2 * 365.25, 0.125],
  ])('by hand: an answer of %d days ago counts %d: seasons return', (days, weight) => {
    const attempts = [tried('QH5VEL-10', true, days)];
    const [one] = rank([far], { here: HERE, nowMs: NOW, hour: 12, attempts, chanceOver: () => 0 });
    expect(one?.chance).toBeCloseTo(weight / (2 + weight), 9);
  });

  it('by hand: what others told counts half, and what was tried elsewhere the less the farther off', () => {
    const from = (km: number) => ({
      latitudeDeg: HERE.latitudeDeg + km / 111,
      longitudeDeg: HERE.longitudeDeg,
    });
    const chanceOf = (attempt: Attempt): number | undefined =>
      rank([far], { here: HERE, nowMs: NOW, hour: 12, attempts: [attempt], chanceOver: () => 0 })[0]?.chance;
    const one = tried('QH5VEL-10', true, 0);
    expect(chanceOf({ ...one, reporter: 'QH7CTB' })).toBeCloseTo(0.5 / 2.5, 9);
    expect(chanceOf({ ...one, from: from(9.9) })).toBeCloseTo(1 / 3, 9);
    expect(chanceOf({ ...one, from: from(10.2) })).toBeCloseTo(0.5 / 2.5, 9);
    expect(chanceOf({ ...one, from: from(49) })).toBeCloseTo(0.5 / 2.5, 9);
    expect(chanceOf({ ...one, from: from(51) })).toBeCloseTo(0.25 / 2.25, 9);
  });

  it('reports are told apart from own tries', () => {
    const reported = { ...tried('QH5VEL-10', true, 1), reporter: 'QH7CTB' };
    const silent = { ...tried('QH5VEL-10', false, 1), reporter: 'QH7CTB' };
    const [one] = order([reported, silent], () => 0.9).filter(({ facility }) => facility === far);
    expect(one).toMatchObject({
      tries: 0,
      answers: 0,
      reports: 2,
      reportedAnswers: 1,
      lastAnsweredMs: undefined,
    });
    expect(one?.why).toBe('never tried, others reached it in 1 of 2 tries, in reach over the ground');
    const [own] = order([reported, tried('QH5VEL-10', true, 1)], () => 0.9);
    expect(own?.why).toMatch(/^answered 1 of 1 try,/);
  });

  it('closed by its list it is called late; hours over midnight', () => {
    const closed = facilityOf(facts('QH5COR-10', 145, { hours: '18-22', position: HERE }), SOURCE);
    const [one] = rank([closed], { here: HERE, nowMs: NOW, hour: 12, attempts: [], chanceOver: () => 1 });
    expect(one).toMatchObject({ chance: 0.1875, isOpen: false });
    expect(one?.why).toMatch(/closed at this hour by its list$/);
    expect(openAt('22:30-0600', 23)).toBe(true);
    expect(openAt('22:30-0600', 22)).toBe(false);
    expect(openAt('22:30-0600', 5)).toBe(true);
    expect(openAt('07-22', 7)).toBe(true);
    expect(openAt('07-22', 22)).toBe(false);
    expect(openAt('24 h', 3)).toBe(true);
    expect(openAt('evenings', 3)).toBeUndefined();
    expect(openAt('30-40', 3)).toBeUndefined();
  });

  it('on HF the list’s own reliability, and its best hour by one’s own tries', () => {
    const hf = facilityOf(facts('QH5COR', 7.102, { reliabilityPercent: 90 }), SOURCE);
    const attempts = [tried('QH5COR', true, 1, 6), tried('QH5COR', true, 2, 6), tried('QH5COR', true, 3, 20)];
    const [one] = rank([hf], { here: HERE, nowMs: NOW, hour: 12, attempts: [], chanceOver: () => undefined });
    expect(one).toMatchObject({ chance: 0.9, why: 'never tried, 90 % by its list', distanceKm: undefined });
    const [worked] = rank([hf], { here: HERE, nowMs: NOW, hour: 12, attempts, chanceOver: () => undefined });
    expect(worked?.bestHour).toBe(6);
  });

  it('against brute force: every order is that of the chances', () => {
    const many = Array.from({ length: 60 }, (_, i) =>
      facilityOf(facts(`QH5VEL-${i % 16}`, 144 + i / 100), SOURCE),
    );
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 60, maxLength: 60 }),
        (chances) => {
          const ranked = rank(many, {
            ...{ here: HERE, nowMs: NOW, hour: 12, attempts: [] },
            chanceOver: (one) => chances[many.indexOf(one)],
          });
          for (const [i, one] of ranked.entries())
            for (const later of ranked.slice(i + 1)) expect(one.chance).toBeGreaterThanOrEqual(later.chance);
        },
      ),
      { numRuns: 10 },
    );
  });
});

describe('out again', () => {
  it('as channels in plain columns', () => {
    const repeater = facilityOf(
      facts('QH1TOP', 145.675, { kind: 'voice repeater', shiftMHz: -0.6, toneHz: 94.8, notes: 'high, wide' }),
      SOURCE,
    );
    expect(channelsCsv([repeater, facilityOf(facts('QH5VEL-10', 144.85), SOURCE)])).toBe(
      'name,receive_mhz,shift_mhz,mode,tone_hz,place,notes\r\n' +
        'QH1TOP,145.675,-0.6,FM,94.8,,"high, wide"\r\n' +
        'QH5VEL-10,144.85,,packet,,,\r\n',
    );
  });

  it.each([
    ['=1+1', `"'=1+1"`],
    ['@SUM(A1)', `"'@SUM(A1)"`],
    ['-cmd', `"'-cmd"`],
    ['+1', `"'+1"`],
    ['plain', 'plain'],
    ['a "b"', '"a ""b"""'],
    ['two\nlines', '"two\nlines"'],
  ])('no cell is carried out by a table program: %j', (notes, cell) => {
    const csv = channelsCsv([facilityOf(facts('QH5VEL-10', 144.85, { notes }), SOURCE)]);
    expect(csv.slice(csv.indexOf('\r\n') + 2)).toBe(`QH5VEL-10,144.85,,packet,,,${cell}\r\n`);
  });
});
