import fc from 'fast-check';
import { parseAprs } from '../aprs/parse.js';
import type { AprsReport } from '../aprs/report.js';
import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { isMalformed, type Malformed } from '../bits/malformed.js';
import { toLatin1 } from '../bits/octets.js';
import { airTimeMs } from '../hdlc/air-time.js';
import { AfskModulator, transmissionBits } from '../modem/modulator.js';
import { BELL_202 } from '../modem/tones.js';
import {
  BEACON_FORMATS,
  composeBeacon,
  formatOf,
  formsOf,
  type BeaconFormat,
  type ComposedBeacon,
} from './composer.js';
import { channelShare, transmitMilliampHours } from './cost.js';

const BEACON: ComposedBeacon = {
  source: 'QH4MPK-7',
  position: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
  symbol: { table: '/', code: '[' },
  path: 'WIDE1-1,WIDE2-1',
  comment: '',
};
const of = (more: Partial<ComposedBeacon>): ComposedBeacon => ({ ...BEACON, ...more });
const info = (made: Ax25Frame | Malformed): string =>
  isMalformed(made) ? made.malformed : toLatin1(made.info);
const read = (frame: Ax25Frame): AprsReport => parseAprs(frame.info, frame.destination);
const refusals = (beacon: ComposedBeacon): Record<string, string | undefined> =>
  Object.fromEntries(
    Object.entries(formsOf(beacon)).map(([format, made]) => [
      format,
      isMalformed(made) ? made.malformed : undefined,
    ]),
  );

describe('a beacon in each form', () => {
  // from: APRS Protocol Reference 1.0.1, "Position data formats": by hand
  it('plain', () =>
    expect(info(composeBeacon(of({ comment: 'hut' }), 'plain'))).toBe('!2937.92S/01124.30W[hut'));
  it('with messaging, course and altitude', () =>
    expect(
      info(composeBeacon(of({ messaging: true, courseDeg: 90, speedMps: 10, altitudeM: 304.8 }), 'plain')),
    ).toBe('=2937.92S/01124.30W[090/019/A=001000'));
  it('with ambiguity', () =>
    expect(info(composeBeacon(of({ ambiguityDigits: 2 }), 'plain'))).toBe('!2937.  S/01124.  W['));

  it('is told apart again', () => {
    for (const format of BEACON_FORMATS) expect(formatOf(formsOf(BEACON)[format] as Ax25Frame)).toBe(format);
  });

  it('says what a form cannot carry', () => {
    expect(refusals(of({ phg: { powerW: 25, heightM: 6, gainDb: 3, directivityDeg: 0 } }))).toMatchObject({
      plain: undefined,
      compressed: 'only the plain form carries power, height and gain',
    });
    expect(refusals(of({ ambiguityDigits: 1 })).compressed).toBe(
      'the compressed form has no digits to leave out',
    );
    expect(refusals(of({ messaging: true }))['mic-e']).toBe('Mic-E does not say that messages are taken');
    expect(refusals(of({ altitudeM: -1 }))).toMatchObject({
      'mic-e': undefined,
      plain: expect.any(String) as string,
    });
    expect(refusals(of({ comment: '€' })).plain).toMatch(/cannot be sent/);
    expect(refusals(of({ path: 'WIDE1-3' })).plain).toMatch(/more hops/);
    expect(refusals(of({ source: 'nobody at all' })).plain).toBeDefined();
    const both = of({ phg: { powerW: 25, heightM: 6, gainDb: 3, directivityDeg: 0 }, speedMps: 1 });
    expect(refusals(both).plain).toMatch(/one of them only/);
  });

  // 1.0.1: 43 characters behind a plain position, 40 behind a compressed one; seven of an extension, nine of an altitude.
  it.each([
    ['plain', {}, 43],
    ['plain', { speedMps: 1 }, 36],
    ['plain', { altitudeM: 100 }, 34],
    ['plain', { speedMps: 1, altitudeM: 100 }, 27],
    ['compressed', {}, 40],
    ['compressed', { altitudeM: 100 }, 40],
    ['compressed', { speedMps: 1, altitudeM: 100 }, 31],
    ['mic-e', {}, 43],
    ['mic-e', { altitudeM: 100 }, 39],
  ] as [BeaconFormat, Partial<ComposedBeacon>, number][])(
    '%s with %j has room for %i characters',
    (format, more, room) => {
      expect(isMalformed(composeBeacon(of({ ...more, comment: 'x'.repeat(room) }), format))).toBe(false);
      expect(isMalformed(composeBeacon(of({ ...more, comment: 'x'.repeat(room + 1) }), format))).toBe(true);
    },
  );

  it('a frequency stands before the comment and takes its room', () => {
    const frequency = { frequencyMHz: 145.675, toneHz: 94.8, offsetKHz: -600 };
    expect(info(composeBeacon(of({ frequency, comment: 'hut' }), 'plain'))).toBe(
      '!2937.92S/01124.30W[145.675MHz T094 -060 hut',
    );
    expect(isMalformed(composeBeacon(of({ frequency, comment: 'x'.repeat(23) }), 'plain'))).toBe(true);
    expect(isMalformed(composeBeacon(of({ frequency, comment: 'x'.repeat(22) }), 'plain'))).toBe(false);
  });
});

describe('the smallest that carries it', () => {
  const smallest = (more: Partial<ComposedBeacon>): BeaconFormat =>
    formatOf(composeBeacon(of(more), 'smallest') as Ax25Frame);

  it.each([
    [{}, 'mic-e'],
    [{ speedMps: 5, courseDeg: 30 }, 'mic-e'],
    [{ messaging: true }, 'compressed'],
    [{ messaging: true, ambiguityDigits: 1 }, 'plain'],
    [{ phg: { powerW: 25, heightM: 6, gainDb: 3, directivityDeg: 0 } }, 'plain'],
  ] as [Partial<ComposedBeacon>, BeaconFormat][])('of %j is %s', (more, format) =>
    expect(smallest(more)).toBe(format),
  );

  it('is never longer than another that carries it, and tells the same', () =>
    fc.assert(
      fc.property(
        fc.record(
          {
            position: fc.record({
              latitudeDeg: fc.double({ min: -89, max: 89, noNaN: true }),
              longitudeDeg: fc.double({ min: -179, max: 179, noNaN: true }),
            }),
            comment: fc.constantFrom('', 'hut', 'cart A, lamps'),
            messaging: fc.boolean(),
            altitudeM: fc.integer({ min: 1, max: 3000 }),
            frequency: fc.constantFrom(
              { frequencyMHz: 145.5 },
              { frequencyMHz: 145.675, toneHz: 94.8, offsetKHz: -600 },
            ),
          },
          { requiredKeys: ['position', 'comment'] },
        ),
        (more) => {
          const beacon = of(more);
          const best = composeBeacon(beacon, 'smallest') as Ax25Frame;
          for (const made of Object.values(formsOf(beacon)))
            if (!isMalformed(made))
              expect(encodeFrame(best).length).toBeLessThanOrEqual(encodeFrame(made).length);
          for (const made of Object.values(formsOf(beacon))) {
            if (isMalformed(made)) continue;
            const told = read(made);
            expect(Math.abs((told.latitudeDeg as number) - beacon.position.latitudeDeg)).toBeLessThan(0.0001);
            expect(Math.abs((told.longitudeDeg as number) - beacon.position.longitudeDeg)).toBeLessThan(
              0.0001,
            );
            expect(told.comment ?? '').toBe(beacon.comment);
            expect(told.frequency).toEqual(beacon.frequency);
            if (beacon.altitudeM === undefined) expect(told.altitudeM).toBeUndefined();
            else expect(Math.abs((told.altitudeM as number) / beacon.altitudeM - 1)).toBeLessThan(0.15);
            if (formatOf(made) !== 'mic-e') expect(told.messaging).toBe(beacon.messaging ?? false);
          }
        },
      ),
    ));
});

describe('what it costs', () => {
  // arithmetic: 5 W / 0.45 / 12 V = 926 mA; 288 times 700 ms are 201.6 s.
  it('of the battery', () =>
    expect(transmitMilliampHours(700, 288, { powerW: 5, volts: 12 })).toBeCloseTo(51.85, 2));
  // arithmetic: 0.7 s three times, twelve times an hour, of 3600 s.
  it('of the channel', () => {
    expect(channelShare(700, 12, 3)).toBeCloseTo(0.007, 6);
    expect(channelShare(1000, 9999)).toBe(1);
  });
});

describe('the time on the air', () => {
  // The modem's own samples: one flag at each end, frame, check and stuffing, 40 samples a bit.
  it.each(BEACON_FORMATS)('of %s is that of its sound', (format) => {
    const raw = encodeFrame(formsOf(of({ comment: 'base hut' }))[format] as Ax25Frame);
    const bits = transmissionBits([raw], BELL_202, { txDelayMs: 0, txTailMs: 0 });
    const samples = new AfskModulator({ rateHz: 48_000, levelDbfs: -6 }).push(bits).length;
    expect(Math.abs(samples - airTimeMs(raw, 1200) * 48)).toBeLessThanOrEqual(1);
  });
});
