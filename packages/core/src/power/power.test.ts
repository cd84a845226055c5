import fc from 'fast-check';
import { chargeByCount, chargeByVoltage, CHEMISTRIES, NATURES, usbWattHours, type Bank } from './battery.js';
import { drawnAmps, drawRatioOf, forecast, meanAmps, MOST_HOURS, sunAmps, type Plan } from './forecast.js';
import { lastKnown, ownRecord, readingOf, type TimedReading } from './readings.js';
import { atTheRadio, fuseFor, gaugeArea, isolationOf, voltageDrop, wireRating } from './wires.js';

const LEAD: Bank = { chemistry: 'lead-acid', ampHours: 40, cells: 6 };
const IRON: Bank = { chemistry: 'LiFePO4', ampHours: 40, cells: 4 };

describe('the charge of a battery', () => {
  // The practice's table: 12.7 V full … 11.9 V empty, and between them straight: 12.30 V is 62.5 %.
  it.each([
    [12.7, 1],
    [12.4, 0.75],
    [12.3, 0.625],
    [12.2, 0.5],
    [12.0, 0.25],
    [11.9, 0],
    [12.9, 1],
  ])('lead at %f V, rested: %f', (volts, charge) => {
    const reading = chargeByVoltage(LEAD, volts, 4);
    expect(reading.kind === 'charge' && reading.charge).toBeCloseTo(charge, 9);
  });

  it('a loaded voltage is no measure, and says how long to wait', () => {
    expect(chargeByVoltage(LEAD, 12.4, 3.9)).toMatchObject({ kind: 'nothing', why: /measure it after 4 h/ });
    expect(chargeByVoltage(IRON, 13.6, 1).kind).toBe('charge');
    expect(chargeByVoltage(IRON, 13.6, 0.9).kind).toBe('nothing');
  });

  it('LiFePO4 on its plateau tells a range, and to count; off it a charge', () => {
    expect(chargeByVoltage(IRON, 13.2, 2)).toMatchObject({ kind: 'between', from: 0.2, to: 0.95 });
    expect(chargeByVoltage(IRON, 12.0, 2)).toMatchObject({ kind: 'charge', charge: 0.09 });
    expect(chargeByVoltage(IRON, 13.6, 2)).toMatchObject({ kind: 'charge', charge: 1 });
  });

  it('a voltage that no rested one of its kind shows is told as such', () => {
    expect(chargeByVoltage(LEAD, 13.8, 9)).toMatchObject({ why: /more than 6 rested cells of lead-acid/ });
    expect(chargeByVoltage(LEAD, 11.7, 9)).toMatchObject({ why: /less than an empty one/ });
    expect(chargeByVoltage({ chemistry: 'Li-ion', cells: 1 }, 4.3, 9)).toMatchObject({
      why: /1 rested cell of/,
    });
  });

  it('every curve rises from empty to full', () => {
    for (const chemistry of CHEMISTRIES) {
      const { curve } = NATURES[chemistry];
      expect([curve[0]?.[1], curve.at(-1)?.[1]]).toEqual([0, 1]);
      expect([...curve].sort((a, b) => a[0] - b[0] || a[1] - b[1])).toEqual(curve);
      expect([...curve].sort((a, b) => a[1] - b[1])).toEqual(curve);
    }
  });

  it('counted: 10 of 40 Ah taken leaves three quarters; more than all of it is an error of the meter', () => {
    expect(chargeByCount(IRON, 10)).toEqual({ kind: 'charge', charge: 0.75, spread: 0.04 });
    expect(chargeByCount(IRON, 41)).toMatchObject({ charge: 0 });
    expect(chargeByCount(IRON, 44)).toMatchObject({ kind: 'nothing' });
    expect(chargeByCount(IRON, -1)).toMatchObject({ charge: 1 });
  });

  it('a USB supply of 10,000 mAh: 37 Wh in its cells, 31.45 at its socket', () =>
    expect(usbWattHours(10_000)).toBeCloseTo(31.45, 9));
});

describe('hours left', () => {
  const PLAN: Plan = {
    bank: IRON,
    charge: { likely: 1, spread: 0 },
    loads: [
      { name: 'computer', amps: 0.5, share: 1 },
      { name: 'transmitting', amps: 5, share: 0.1 },
    ],
    sunAmps: [],
    hourOfDay: 12,
    drawRatio: 1,
  };

  it('by hand: 40 Ah at 0.5 + 0.1·5 = 1 A last 40 h, 36 to a tenth', () => {
    expect(meanAmps(PLAN.loads)).toBeCloseTo(1, 12);
    const { toEmpty, toFloor, line } = forecast(PLAN);
    expect(toEmpty.likely).toBeCloseTo(40, 9);
    expect(toFloor.likely).toBeCloseTo(36, 9);
    // Load 12 % more and less.
    expect(toEmpty.least).toBeCloseTo(40 / 1.12, 9);
    expect(toEmpty.most).toBeCloseTo(40 / 0.88, 9);
    expect(line[4]).toBeCloseTo(0.9, 9);
    const short = forecast({ ...PLAN, bank: { ...IRON, ampHours: 39.5 } }).line;
    expect([short.length, short.at(-1)]).toEqual([41, 0]);
  });

  it('the spread of the charge is that of the hours too', () => {
    const { toEmpty } = forecast({ ...PLAN, charge: { likely: 0.5, spread: 0.1 } });
    expect(toEmpty.least).toBeCloseTo((0.4 * 40) / 1.12, 9);
    expect(toEmpty.most).toBeCloseTo((0.6 * 40) / 0.88, 9);
  });

  it('the own record: a plan that draws 31/36 of what was planned lasts 36 h in place of 31', () => {
    const bank = { ...IRON, ampHours: 31 };
    expect(forecast({ ...PLAN, bank }).toEmpty.likely).toBeCloseTo(31, 9);
    expect(forecast({ ...PLAN, bank, drawRatio: 31 / 36 }).toEmpty.likely).toBeCloseTo(36, 9);
  });

  it('what is below the floor already has no hours', () => {
    const { toFloor, toEmpty } = forecast({ ...PLAN, charge: { likely: 0.1, spread: 0 } });
    expect(toFloor.likely).toBe(0);
    expect(toEmpty.likely).toBeCloseTo(4, 9);
  });

  it('sun that gives more than is drawn: it does not run down; it never holds more than all', () => {
    const { toEmpty, line } = forecast({ ...PLAN, sunAmps: Array.from({ length: 24 }, () => 3) });
    expect(toEmpty).toEqual({ least: undefined, likely: undefined, most: undefined });
    expect(Math.max(...line)).toBe(1);
    expect(line).toHaveLength(MOST_HOURS + 1);
  });

  it('sun comes at its hours: from noon four hours of 3 A into half a bank, by hand', () => {
    const sun = Array.from({ length: 24 }, (_, hour) => (hour >= 12 && hour < 16 ? 3 : 0));
    const { line } = forecast({ ...PLAN, charge: { likely: 0.5, spread: 0 }, sunAmps: sun });
    expect(line[4]).toBeCloseTo(0.5 + (4 * 2 * 0.97) / 40, 9);
    expect(line[5]).toBeCloseTo((line[4] as number) - 1 / 40, 9);
    // The next day at noon again.
    expect((line[25] as number) - (line[24] as number)).toBeCloseTo((2 * 0.97) / 40, 9);
  });

  it('lead gives less at more than its rated current (Peukert); 4 A of 40 Ah are twice the rated', () => {
    expect(drawnAmps(LEAD, 4)).toBeCloseTo(4 * 2 ** 0.2, 12);
    expect(drawnAmps(LEAD, 1)).toBe(1);
    expect(drawnAmps(IRON, 40)).toBe(40);
  });

  it('more load never lasts longer, more charge never shorter', () => {
    const share = fc.double({ min: 0.01, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...CHEMISTRIES), share, share, share, (chemistry, charge, amps, more) => {
        const hours = (load: number, of: number): number =>
          forecast({
            ...PLAN,
            bank: { chemistry, ampHours: 10, cells: 4 },
            loads: [{ name: '', amps: load, share: 1 }],
            charge: { likely: of, spread: 0 },
          }).toEmpty.likely ?? Infinity;
        expect(hours(amps + more, charge)).toBeLessThanOrEqual(hours(amps, charge));
        expect(hours(amps, charge)).toBeLessThanOrEqual(hours(amps, Math.min(1, charge + more)));
      }),
    );
  });

  it('a panel: 20 W at noon of a clear day into 13 V; nothing at night', () => {
    const sun = sunAmps(20, 13, 1);
    expect(sun).toHaveLength(24);
    expect(sun[12]).toBeCloseTo((0.62 * 20) / 13, 9);
    expect([sun[0], sun[5], sun[19], sun[23]]).toEqual([0, 0, 0, 0]);
    const fullHours = sunAmps(1, 1, 1).reduce((a, b) => a + b);
    expect(fullHours).toBeGreaterThan(4);
    expect(fullHours).toBeLessThan(5);
  });
});

describe('the own record', () => {
  const HOUR = 3_600_000;
  const at = (hours: number, charge: number, wasCharged = false) => ({
    atMs: hours * HOUR,
    charge,
    wasCharged,
  });

  it('10 Ah in 8 h, planned 1 A: a quarter more', () =>
    expect(drawRatioOf(IRON, [at(0, 1), at(8, 0.75)], 1)).toEqual({ ratio: 1.25, hours: 8 }));

  it('leaves out what was charged between, what is too short and what is too small', () => {
    const points = [
      at(0, 1),
      at(8, 0.75),
      at(20, 0.95, true),
      at(20.5, 0.85),
      at(30, 0.82),
      at(40, 0.82 - 0.25),
    ];
    expect(drawRatioOf(IRON, points, 1)?.hours).toBe(18);
    expect(drawRatioOf(IRON, [at(0, 1)], 1)).toBeUndefined();
    expect(drawRatioOf(IRON, [at(0, 1), at(1, 0.95)], 1)?.ratio).toBeCloseTo(2, 9);
    expect(drawRatioOf(IRON, [at(0, 1), at(8, 0.75)], 0)).toBeUndefined();
  });
});

describe('wires', () => {
  // ASTM B258, as its tables print them.
  it.each([
    [36, 0.012668],
    [14, 2.0809],
    [12, 3.3088],
    [10, 5.2612],
    [0, 53.475],
  ])('gauge %i has %f mm²', (gauge, area) => expect(gaugeArea(gauge) / area).toBeCloseTo(1, 4));

  it('5 m of 2.5 mm² at 8 A, there and back: 2·5·1.724e-8·8/2.5e-6 = 0.5517 V', () => {
    const run = { oneWayM: 5, areaMm2: 2.5, amps: 8 };
    expect(voltageDrop(run)).toBeCloseTo(0.55168, 5);
    expect(voltageDrop(run, 60)).toBeCloseTo(0.55168 * (1 + 0.00393 * 40), 5);
    expect(atTheRadio(12.6, run)).toEqual({ volts: 12.6 - voltageDrop(run), verdict: 'much' });
  });

  it('good up to three in a hundred; below 11.7 V too much', () => {
    const run = { oneWayM: 2, areaMm2: 4, amps: 8 };
    expect(atTheRadio(12.8, run).verdict).toBe('good');
    expect(atTheRadio(11.7 + voltageDrop(run), run).verdict).toBe('good');
    expect(atTheRadio(11.69 + voltageDrop(run), run).verdict).toBe('too much');
    const limit = { ...run, oneWayM: (run.oneWayM * 0.03 * 12.8) / voltageDrop(run) };
    expect(atTheRadio(12.8, { ...limit, oneWayM: limit.oneWayM * 0.999 }).verdict).toBe('good');
    expect(atTheRadio(12.8, { ...limit, oneWayM: limit.oneWayM * 1.001 }).verdict).toBe('much');
  });

  it('a fuse above the load and not above the wire', () => {
    expect(fuseFor(8, 2.5)).toEqual({ fuse: 10, wireAmps: 20, wireMm2: undefined });
    expect(fuseFor(8.1, 2.5).fuse).toBe(15);
    expect(fuseFor(8.1, 1)).toEqual({ fuse: undefined, wireAmps: 10, wireMm2: 1.5 });
    expect(fuseFor(70, 25)).toEqual({ fuse: undefined, wireAmps: 110, wireMm2: undefined });
    expect(fuseFor(0.5, 0.3)).toEqual({ fuse: undefined, wireAmps: 0, wireMm2: 0.5 });
  });

  it('a wire between two of the table carries what the thinner does', () => {
    expect(wireRating(3.3)).toBe(20);
    expect(wireRating(4)).toBe(30);
    expect(wireRating(3.99)).toBe(30);
    expect(wireRating(3.9)).toBe(20);
  });

  it('for any load and wire a fuse that is advised protects the wire and carries the load', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 90, noNaN: true }),
        fc.double({ min: 0.2, max: 40, noNaN: true }),
        (amps, area) => {
          const { fuse, wireAmps, wireMm2 } = fuseFor(amps, area);
          if (fuse !== undefined) {
            expect(fuse).toBeLessThanOrEqual(wireAmps);
            expect(amps).toBeLessThanOrEqual(fuse * 0.8 + 1e-9);
          } else if (wireMm2 !== undefined) expect(fuseFor(amps, wireMm2).fuse).toBeDefined();
        },
      ),
    );
  });
});

describe('the starter battery', () => {
  const pair = (starterV: number, equipmentV: number, isEngineOff = true): string =>
    isolationOf({ starterV, equipmentV, isEngineOff }).kind;

  it('is apart when both show clearly different voltages, and joined when they show the same', () => {
    expect(pair(12.6, 12.4)).toBe('apart');
    expect(pair(12.4, 12.6)).toBe('apart');
    expect(pair(12.65, 12.5)).toBe('apart');
    expect(pair(12.6, 12.46)).toBe('not told');
    expect(pair(12.7, 12.65)).toBe('joined');
    expect(pair(12.7, 12.64)).toBe('not told');
  });

  it('the engine or a charger tells nothing', () => {
    expect(pair(12.6, 12.4, false)).toBe('not told');
    expect(pair(13.21, 12.4)).toBe('not told');
    expect(pair(13.2, 12.4)).toBe('apart');
  });
});

describe('readings over the days', () => {
  const HOUR = 3_600_000;
  const reading = (hours: number, more: Partial<TimedReading>): TimedReading => ({
    atMs: hours * HOUR,
    kind: 'counted',
    wasCharged: false,
    ...more,
  });

  it('each kind tells its charge', () => {
    expect(readingOf(LEAD, { kind: 'rested', volts: 12.2, restedHours: 5, wasCharged: false })).toMatchObject(
      {
        charge: expect.closeTo(0.5, 9) as number,
      },
    );
    expect(readingOf(LEAD, { kind: 'rested', volts: 12.2, wasCharged: false }).kind).toBe('nothing');
    expect(readingOf(IRON, { kind: 'counted', takenAh: 20, wasCharged: false })).toMatchObject({
      charge: 0.5,
    });
    expect(readingOf(IRON, { kind: 'full', wasCharged: true })).toMatchObject({ charge: 1 });
    expect(readingOf(IRON, { kind: 'empty', wasCharged: false })).toMatchObject({ charge: 0 });
  });

  it('the last that told something is what is known; a plateau tells nothing', () => {
    const plateau = reading(9, { kind: 'rested', volts: 13.2, restedHours: 2 });
    const readings = [reading(0, { kind: 'full' }), reading(8, { takenAh: 10 }), plateau];
    expect(lastKnown(IRON, readings)).toEqual({ atMs: 8 * HOUR, likely: 0.75, spread: 0.04 });
    expect(lastKnown(IRON, [plateau])).toBeUndefined();
    expect(lastKnown(IRON, [])).toBeUndefined();
  });

  it('a charge that came with a reading that told nothing counts all the same', () => {
    const plateau = reading(4, { kind: 'rested', volts: 13.2, restedHours: 2, wasCharged: true });
    const drawn = [reading(0, { kind: 'full' }), reading(8, { takenAh: 10 })];
    expect(ownRecord(IRON, drawn, 1)).toEqual({ ratio: 1.25, hours: 8 });
    expect(ownRecord(IRON, [drawn[0]!, plateau, drawn[1]!], 1)).toBeUndefined();
    expect(ownRecord(IRON, [drawn[0]!, plateau, ...drawn.slice(1), reading(18, { takenAh: 20 })], 1)).toEqual(
      {
        ratio: 1,
        hours: 10,
      },
    );
  });
});
