import fc from 'fast-check';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { APRS_VECTORS, REFUSED, type Near } from './aprs.vectors.js';
import { KIND_REFUSED, KIND_VECTORS } from './kinds.vectors.js';
import { describeReport } from './describe.js';
import { encodeAprs } from './encode.js';
import { encodeAck, encodeMessage } from './message.js';
import { encodeObject } from './object.js';
import { destinationOfSymbol, symbolOfDestination } from './destination-symbol.js';
import { parseAprs } from './parse.js';
import { encodePositionReport } from './position-report.js';
import type { AprsReport } from './report.js';

const parse = (info: string, destination = 'APZMPK'): AprsReport => parseAprs(fromLatin1(info), destination);

/** Numbers to five decimal places unless the vector says otherwise. */
function expected(says: unknown): unknown {
  if (typeof says === 'number') return expect.closeTo(says, 5);
  if (typeof says !== 'object' || says === null) return says;
  if ('near' in says) return expect.closeTo((says as Near).near, (says as Near).decimals);
  if (Array.isArray(says)) return says.map(expected);
  return Object.fromEntries(Object.entries(says).map(([key, value]) => [key, expected(value)]));
}

describe('published examples', () => {
  it.each([...APRS_VECTORS, ...KIND_VECTORS])('$info: $from', ({ info, destination, says }) => {
    expect(parse(info, destination)).toMatchObject(expected(says) as object);
  });
});

// Written again it is an object that stays, which has a time by rule: so it stands apart from what comes back the same.
it('an object whose time cannot be read is an object without time', () => {
  const report = parse(';LEADER   *09234xz4903.50N/07201.75W>Test');
  expect(report).toMatchObject({ type: 'object', object: { name: 'LEADER', live: true }, comment: 'Test' });
  expect(report.timestamp).toBeUndefined();
});

it.each([
  ['!4903.50N/07201.75W_361/004g005t077', 'behind the position'],
  ['_10090556c361s004g005t077', 'positionless'],
])('%s: a wind direction beyond 360° says nothing, %s', (info) => {
  const { weather } = parse(info);
  expect(weather).toMatchObject({ temperatureC: 25 });
  expect(weather?.windDirectionDeg).toBeUndefined();
});

it('compressed weather: a wind that was told by c and s is not told again by `s`', () => {
  expect(parse('=/5L!!<*e7_7P[s010').weather?.windSpeedMps).toBeCloseTo(36.2 * (1852 / 3600), 1);
});

// from: NMEA 0183: the course is told from 0 to 360; V warns of no fix
it.each([
  ['360', 0],
  ['359.9', 359.9],
  ['361', undefined],
  ['-1', undefined],
  ['', undefined],
])('an RMC course %s is %s', (course, says) => {
  const report = parse(`$GPRMC,063909,A,3349.4302,N,11700.3721,W,43.022,${course},291099,13.6,E`) as {
    courseDeg?: number;
  };
  expect(report.courseDeg).toBe(says);
});
// from: NMEA 0183, "RMC", "VTG", "GGA", "GLL", "WPL": fields may be empty; knots and metres
it.each([
  ['$GPRMC,063909,A,3349.4302,N,11700.3721,W,0,0,291099', { speedMps: 0, courseDeg: 0 }],
  ['$GPRMC,063909,A,3349.4302,N,11700.3721,W,,,291099', { speedMps: undefined, courseDeg: undefined }],
  ['$GPRMC,063909,A,3349.4302,N,11700.3721,W,-1,,291099', { speedMps: undefined }],
  ['$GPRMC,063909,A,9000.0000,N,18000.0000,E,0,0,291099', { latitudeDeg: 90, longitudeDeg: 180 }],
  ['$GPRMC,063909,A,9000.0001,N,18000.0000,E,0,0,291099', { type: 'unknown' }],
  ['$GPRMC,063909,A,9000.0000,N,18000.0001,E,0,0,291099', { type: 'unknown' }],
  ['$GPRMC,063909,A,3349.4302,X,11700.3721,W,0,0,291099', { type: 'unknown' }],
  ['$GPRMC,063909,A,3349.4302,N,11700.3721,Y,0,0,291099', { type: 'unknown' }],
  ['$GPRMC,063909,A,3360.4302,N,11700.3721,W,0,0,291099', { type: 'unknown' }],
  ['$GPVTG,360.0,T,,M,10.0,N', { courseDeg: 0, speedMps: 10 * (1852 / 3600) }],
  ['$GPVTG,361,T,,M,10.0,N', { courseDeg: undefined, speedMps: 10 * (1852 / 3600) }],
  ['$GPVTG,,T,,M,0,N', { courseDeg: undefined, speedMps: 0 }],
  ['$GPVTG,,T,,M,,N', { type: 'unknown' }],
  ['$GPGGA,102705,5157.9762,N,00029.3256,W,1,04,2.0,-3.5,M', { altitudeM: -3.5 }],
  ['$GPGGA,102705,5157.9762,N,00029.3256,W,1,04,2.0,,M', { altitudeM: undefined }],
  ['$GPGGA,102705,5157.9762,N,00029.3256,W,0,04,2.0,1,M', { type: 'unknown' }],
  ['$GPGLL,5157.9762,S,00029.3256,E,102705,A', { latitudeDeg: -51.96627, longitudeDeg: 0.48876 }],
  ['$GPGLL,5157.9762,S,00029.3256,E,102705,V', { type: 'unknown' }],
  ['$GPWPL,5157.9762,N,00029.3256,W, HILL ', { object: { name: 'HILL', live: true } }],
  ['$GPWPL,5157.9762,N,00029.3256,W,', { object: undefined }],
])('%s', (info, says) => {
  const report = parse(info) as unknown as Record<string, unknown>;
  for (const [name, value] of Object.entries(says)) expect(report[name]).toEqual(expected(value));
});

it('an RMC without a fix is no position', () =>
  expect(parse('$GPRMC,063909,V,3349.4302,N,11700.3721,W,0,0,291099,13.6,E')).toMatchObject({
    type: 'unknown',
  }));

// from: 1.0.1, "Compressed position report data formats", course/speed: c from ! to z, course c × 4
it.each([
  ['!', 0],
  ['z', 356],
  ['|', undefined],
])('a compressed course %s is %s', (c, courseDeg) =>
  expect((parse(`=/5L!!<*e7>${c}P[`) as { courseDeg?: number }).courseDeg).toBe(courseDeg),
);

// from: 1.0.1, "Mic-E destination address field encoding": 33°65′ is no latitude; "Mic-E information field": 70 no minutes
it.each([
  ['S36U6T', '`(_fn"Oj/', 'the latitude has more than 59 minutes'],
  ['S32U6T', '`(bfn"Oj/', 'the Mic-E longitude is out of range'],
])('Mic-E %s %s is no position', (destination, info, reason) =>
  expect(parse(info, destination)).toEqual({ type: 'unknown', reason }),
);

describe('what was read from a published example', () => {
  const known = [...APRS_VECTORS, ...KIND_VECTORS].filter(
    ({ says }) => (says as AprsReport).type !== 'unknown',
  );

  it.each(known)('is written and read back the same: $info', ({ info, destination }) => {
    const first = parse(info, destination);
    const written = encodeAprs(first);
    const again = parseAprs(written.info, written.destination ?? destination ?? 'APZMPK');
    expect({ written: toLatin1(written.info), again }).toEqual({
      written: toLatin1(written.info),
      again: expected(first),
    });
  });
});

// from: 1.0.1, "Symbol in the destination address"; the examples by the table there (from memory)
describe('a symbol in the destination', () => {
  it.each([
    ['GPSMV', '/', '>'],
    ['GPSNV', '\\', '>'],
    ['GPSNV3', '3', '>'],
    ['GPSLV', '/', 'v'],
    ['GPSBM', '/', ','],
    ['GPSC14', '/', '.'],
    ['GPSE14', '\\', '.'],
  ])('%s is %s%s', (destination, table, code) =>
    expect(symbolOfDestination(destination)).toEqual({ table, code }),
  );

  it('of every code of both tables comes back, and an overlay too', () => {
    for (let octet = 0x21; octet <= 0x7e; octet++)
      for (const table of ['/', '\\', '7']) {
        const symbol = { table, code: String.fromCharCode(octet) };
        expect(symbolOfDestination(destinationOfSymbol(symbol))).toEqual(symbol);
      }
    expect(symbolOfDestination('APZMPK')).toBeUndefined();
    expect(() => destinationOfSymbol({ table: '/', code: ' ' })).toThrow(RangeError);
  });
});

describe('what cannot be read', () => {
  it.each([...REFUSED, ...KIND_REFUSED])('$info: $reason', ({ info, reason }) => {
    expect(parse(info)).toEqual({ type: 'unknown', reason });
  });

  it('never throws, whatever the octets and the destination', () => {
    const first = fc.constantFrom(
      ..."!=/@`':;)>_T?<}${,#*%&[".split(''),
      '\x1c',
      '\x1d',
      'T#',
      '$GPRMC,',
      '$ULTW',
    );
    const text = fc
      .tuple(first, fc.string({ unit: 'binary', maxLength: 60 }))
      .map(([a, b]) => a + b.replace(/[^\0-\xff]/g, '~'));
    const mutated = fc
      .tuple(
        fc.constantFrom(...[...APRS_VECTORS, ...KIND_VECTORS].map(({ info }) => info)),
        fc.nat(60),
        fc.nat(255),
      )
      .map(([info, at, code]) => info.slice(0, at) + String.fromCharCode(code) + info.slice(at + 1));
    fc.assert(
      fc.property(
        fc.oneof(text, mutated),
        fc.constantFrom('APZMPK', 'S32U6T', '', 'ZZZZZZ'),
        (info, destination) => {
          const report = parse(info, destination);
          for (const value of [report.latitudeDeg, report.longitudeDeg, report.speedMps])
            expect(value === undefined || Number.isFinite(value)).toBe(true);
          expect(describeReport(report, { units: 'imperial', coordinates: 'minutes' })).toEqual(
            expect.any(String),
          );
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe('what we send', () => {
  const latitudeDeg = fc.double({ min: -90, max: 90, noNaN: true });
  const longitudeDeg = fc.double({ min: -180, max: 180, noNaN: true });
  const symbol = { table: '/', code: '-' };
  /** Half of a hundredth of a minute; half of a base-91 step. */
  const steps = { plain: 1 / 12_000, compressed: 1 / 190_463 };

  it.each(['plain', 'compressed'] as const)('a %s position comes back within half a step', (form) => {
    fc.assert(
      fc.property(fc.record({ latitudeDeg, longitudeDeg }), (position) => {
        const report = parse(
          encodePositionReport(position, symbol, { comment: 'hut', compressed: form === 'compressed' }),
        );
        expect(Math.abs((report.latitudeDeg ?? 999) - position.latitudeDeg)).toBeLessThanOrEqual(
          steps[form] * 1.001,
        );
        expect(Math.abs((report.longitudeDeg ?? 999) - position.longitudeDeg)).toBeLessThanOrEqual(
          steps[form] * 1.001,
        );
        expect(report).toMatchObject({ type: 'position', symbol, comment: 'hut' });
      }),
    );
  });

  it('an overlay digit survives the compressed form', () => {
    const info = encodePositionReport(
      { latitudeDeg: 1, longitudeDeg: 2 },
      { table: '3', code: '#' },
      { compressed: true },
    );
    expect(info.charAt(1)).toBe('d');
    expect(parse(info).symbol).toEqual({ table: '3', code: '#' });
  });

  it.each([0, 1, 2, 3, 4])('ambiguity of %i digits comes back', (ambiguityDigits) => {
    const info = encodePositionReport({ latitudeDeg: 49.0583, longitudeDeg: -72.0292 }, symbol, {
      ambiguityDigits,
    });
    expect(parse(info).ambiguityDigits ?? 0).toBe(ambiguityDigits);
  });

  it('messages and objects come back', () => {
    expect(parse(encodeMessage('QH7CTC-9', 'come home', '12')).message).toEqual({
      addressee: 'QH7CTC-9',
      text: 'come home',
      number: '12',
    });
    expect(parse(encodeAck('QH7CTC-9', '12'))).toMatchObject({ type: 'ack', message: { number: '12' } });
    const at = { name: '145.675', live: true, atMs: Date.UTC(2026, 10, 9, 23, 45) };
    expect(
      parse(encodeObject(at, { latitudeDeg: 0, longitudeDeg: 0 }, { table: '/', code: 'r' }, 'T094')),
    ).toMatchObject({
      object: { name: '145.675', live: true },
      timestamp: { text: '092345z' },
    });
  });
});

describe('in words', () => {
  it.each([
    ['!4903.50N/07201.75W>088/036A', 'metric', 'position · 49.0583°N 72.0292°W · 67 km/h E · A'],
    ['!4903.50N/07201.75W>088/036A', 'imperial', 'position · 49.0583°N 72.0292°W · 41 mph E · A'],
    [
      '!4903.50N/07201.75W_220/004g005t077h50b09900',
      'metric',
      'weather · 49.0583°N 72.0292°W · 25 °C, SW 2 m/s, gusts 2 m/s, 50 %, 990 hPa',
    ],
    [':WU2Z     :Testing{003', 'metric', 'message to WU2Z no. 003: Testing'],
    ['hello', 'metric', 'not read as APRS: no APRS data type begins with "h"'],
    [
      ';145.675  *092345z2933.63S/01115.72WrT094 -060 R25k hut',
      'metric',
      'object 145.675 · 29.5605°S 11.2620°W · 145.675 MHz −0.6 MHz tone 94.8 Hz within 25 km · hut',
    ],
    [
      'T#005,199,000,255,073,123,01101001',
      'metric',
      'telemetry · no. 5: 199, 0, 255, 73, 123, bits 01101001',
    ],
    [
      '!4903.50N/07201.75W>088/000|!!#%|',
      'metric',
      'position · 49.0583°N 72.0292°W · 0 km/h · telemetry no. 0: 186',
    ],
    [
      '!4903.50N/07201.75W_220/004g000t077r010p020P030L500',
      'metric',
      'weather · 49.0583°N 72.0292°W · 25 °C, SW 2 m/s, rain 2.5 mm in an hour, rain 7.6 mm since midnight, rain 5.1 mm in 24 h, sun 500 W/m²',
    ],
    [
      '!4903.50N/07201.75W_220/004g005t077F0123V138X123',
      'imperial',
      'weather · 49.0583°N 72.0292°W · 77 °F, SW 4 mph, gusts 5 mph, water 12.3 ft above flood stage, 12000 nSv/h, battery 13.8 V',
    ],
    [
      '!4903.50N/07201.75W_220/004g005t077f-012',
      'metric',
      'weather · 49.0583°N 72.0292°W · 25 °C, SW 2 m/s, gusts 2 m/s, water 1.20 m below flood stage',
    ],
    ['_10090556c220s004g005t077', 'metric', 'weather · 25 °C, SW 2 m/s, gusts 2 m/s'],
    ['_10090556c220s004g005t-04', 'metric', 'weather · −20 °C, SW 2 m/s, gusts 2 m/s'],
    ['_10090556c220s004g005t032', 'metric', 'weather · 0 °C, SW 2 m/s, gusts 2 m/s'],
    [
      '=/5L!!<*e7_7P[g005t077s002',
      'imperial',
      'weather · 49.5000°N 72.7500°W · 77 °F, E 42 mph, gusts 5 mph, snow 2.0 in in 24 h',
    ],
    [
      '=/5L!!<*e7_7P[g005t077s002',
      'metric',
      'weather · 49.5000°N 72.7500°W · 25 °C, E 19 m/s, gusts 2 m/s, snow 5 cm in 24 h',
    ],
    ['<IGATE,MSG_CNT=43', 'metric', 'capabilities · IGATE, MSG_CNT 43'],
    ['}QH5OST>APRS,TCPIP,QH3PRT-10*:>gr\xc3\xbc\xc3\x9fe', 'metric', 'passed on for QH5OST · status · grüße'],
    ['>IO91SX/G ^B7', 'metric', 'status · 51.9792°N 0.4583°W · beam to 110°, 490 W radiated'],
    [
      '!4903.50N/07201.75W\\088/036/270/729',
      'nautical',
      'position · 49.0583°N 72.0292°W · 36 kt E · signal from 270° ± 0.5°, within 3.5 nmi',
    ],
  ] as const)('%s, %s', (info, units, words) => {
    expect(describeReport(parse(info), { units, coordinates: 'decimal' })).toBe(words);
  });
});
