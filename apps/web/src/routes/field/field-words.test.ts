import type { ReadingView } from '@mistpeak/contract/field';
import { exposureOf } from '@mistpeak/core/exposure/exposure';
import { sunnyHours } from './charge-line';
import { exposureInWords } from './exposure-part';
import { cellsOf12V, loadsOf, type Written } from './field-settings';
import { hoursInWords, leftOf, outlookInWords, outlookOf } from './field-words';
import { chargeInWords } from './readings';
import { fuseInWords, wiresInWords } from './wires-part';

const HOUR = 3_600_000;
const NOW = new Date(2026, 9, 12, 12).getTime();
const SETTINGS: Written = {
  bank: { chemistry: 'LiFePO4', ampHours: 40, cells: 4 },
  loads: [{ name: 'all', amps: 2, sharePercent: 50 }],
  panelW: 0,
  skyPercent: 100,
  wires: [],
  antenna: {
    frequencyMHz: 144.8,
    powerW: 50,
    gainDbi: 6,
    feedLossDb: 0,
    keyedPercent: 100,
    rule: 'FCC',
    group: 'public',
    isHandheld: false,
  },
};
const reading = (hoursAgo: number, more: Partial<ReadingView>): ReadingView => ({
  id: `${hoursAgo}`,
  atMs: NOW - hoursAgo * HOUR,
  kind: 'counted',
  wasCharged: false,
  note: '',
  ...more,
});
const words = (settings: Written, readings: readonly ReadingView[] = []): string =>
  outlookInWords(outlookOf(settings, readings, NOW), settings.bank.chemistry, NOW);

it('by hand: 40 Ah at 1 A, a tenth kept back, lasts 36 h from full', () => {
  expect(words(SETTINGS)).toBe('It lasts 36 h more (32 h to 41 h), down to 10 % at 1.0 A.');
});

it('from a reading of long ago the hours since are over', () => {
  // Half, ten hours ago: 40 % of 40 Ah are 16 h, of which 6 are left.
  expect(words(SETTINGS, [reading(10, { takenAh: 20 })])).toMatch(/^It lasts 6\.0 h more \(/);
  expect(words(SETTINGS, [reading(17, { takenAh: 20 })])).toBe(
    'It is below what should be taken from it, and empty in 3.0 h.',
  );
  expect(words(SETTINGS, [reading(21, { takenAh: 20 })])).toBe('By this plan it is empty by now.');
});

it('the own record: drawn less than planned, it lasts longer, and says what the plan says', () => {
  const readings = [reading(10, { kind: 'full' }), reading(0, { takenAh: 5 })];
  // Half of what was planned: 0.775 of 40 Ah at 0.5 A, against at 1 A.
  expect(words(SETTINGS, readings)).toMatch(
    /^It lasts 62 h more \(.*\), down to 10 % at 0\.5 A, by your own record; by the plan alone 31 h\.$/,
  );
});

it('sun that gives more than is drawn', () => {
  const sunny = { ...SETTINGS, panelW: 500 };
  expect(words(sunny)).toMatch(/does not run down in two weeks/);
  expect(leftOf(outlookOf(sunny, [], NOW), undefined, NOW)).toBeUndefined();
});

it('hours in words', () => expect([0.5, 9.94, 10].map(hoursInWords)).toEqual(['30 min', '9.9 h', '10 h']));

it('hours of sun as stretches from the beginning', () => {
  const sun = Array.from({ length: 24 }, (_, hour) => (hour >= 14 && hour < 16 ? 1 : 0));
  expect(sunnyHours(sun, NOW, 30)).toEqual([
    [2, 4],
    [26, 28],
  ]);
  expect(sunnyHours([], NOW, 30)).toEqual([]);
});

it('what draws, by the chain: each part, and the transmitter while it is keyed', () => {
  const part = { name: 'modem', drawMilliamps: 60 } as Parameters<typeof loadsOf>[0][number];
  const free = { name: 'phone' } as typeof part;
  // 25 W at 45 %: 55.6 W, 4.3 A of 12.8 V.
  expect(loadsOf([part, free], 25, 2)).toEqual([
    { name: 'modem', amps: 0.06, sharePercent: 100 },
    { name: 'Transmitting', amps: 4.3, sharePercent: 2 },
  ]);
  expect(cellsOf12V('lead-acid')).toBe(6);
});

it('what a reading tells', () => {
  const bank = SETTINGS.bank;
  expect(chargeInWords(bank, reading(0, { takenAh: 10 }))).toBe('75 %');
  expect(chargeInWords(bank, reading(0, { kind: 'rested', volts: 13.2, restedHours: 3 }))).toBe(
    'between 20 and 95 %: no forecast by voltage',
  );
  expect(chargeInWords(bank, reading(0, { kind: 'rested', volts: 13.2, restedHours: 0 }))).toMatch(
    /^nothing/,
  );
});

describe('wires', () => {
  const wire = { name: 'radio', oneWayM: 2, areaMm2: 4, amps: 8 };
  it('the worst of them is told first', () => {
    expect(wiresInWords([])).toBe('No wire is told yet.');
    expect(wiresInWords([wire])).toBe('The wire holds.');
    expect(wiresInWords([wire, wire])).toBe('All 2 wires hold.');
    expect(wiresInWords([wire, { ...wire, name: 'far', oneWayM: 40 }])).toMatch(
      /^On “far” too little arrives/,
    );
    expect(
      wiresInWords([
        { ...wire, oneWayM: 40 },
        { ...wire, name: 'thin', areaMm2: 0.5 },
      ]),
    ).toMatch(/^No fuse fits “thin”/);
    expect(wiresInWords([{ ...wire, amps: NaN }])).toBe('A wire lacks a number.');
  });

  it('the fuse, or what would take one', () => {
    expect(fuseInWords(wire)).toBe('10 A (the wire carries 30 A)');
    expect(fuseInWords({ ...wire, areaMm2: 0.75 })).toBe('none fits: from 1 mm² on');
    expect(fuseInWords({ ...wire, amps: 100 })).toBe('none: 100 A are more than a blade fuse is made for');
  });
});

describe('the distance', () => {
  const told = (change: Partial<Written['antenna']>): string => {
    const antenna = { ...SETTINGS.antenna, ...change };
    return exposureInWords(
      antenna,
      exposureOf({ ...antenna, keyedShare: antenna.keyedPercent / 100 }, antenna.rule, antenna.group),
      'metric',
    );
  };
  it('in words: 50 W, 6 dBi, all the time', () =>
    expect(told({})).toBe('Stay 4.5 m away, 5.6 m to be sure everywhere.'));
  it('a handheld, a frequency without a limit, and too close for the formula are told apart', () => {
    expect(told({ isHandheld: true })).toMatch(/its maker’s figure/);
    expect(told({ rule: 'ICNIRP', frequencyMHz: 14 })).toMatch(
      /ICNIRP 2020 limits no power density at 14 MHz/,
    );
    expect(told({ powerW: 0.1 })).toMatch(/gives less than 0\.3 m, where it does not hold/);
    expect(told({ powerW: NaN })).toBe('A number is missing.');
  });
});
