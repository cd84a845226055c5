import fc from 'fast-check';
import {
  METRES_PER_FOOT,
  METRES_PER_MILE,
  METRES_PER_NAUTICAL_MILE,
  MM_PER_INCH,
} from '../../units/units.js';
import { fahrenheitToCelsius, MPS_PER_KNOT, MPS_PER_MPH } from '../../units/units.js';
import { CTCSS_TONES_HZ } from '../../units/tones.js';
import type { Area, AprsReport, Bearing, Dfs, Frequency, Phg, Storm, Telemetry, Weather } from '../report.js';
import { timestampAt } from '../timestamp.js';

/** Any report of any kind, its quantities in steps that the form on the air can carry, so that it comes back the same. */

type Some<T> = fc.Arbitrary<T>;
const steps = (from: number, to: number, step: number): Some<number> =>
  fc.integer({ min: from, max: to }).map((n) => n * step);
/** A record without the keys that are undefined: a fact that was not sent is absent. */
const facts = <T extends object>(model: { [K in keyof T]-?: Some<T[K] | undefined> }): Some<T> =>
  fc.record(model as never).map((record) => withoutAbsent(record as T) as T);
const maybe = <T>(value: Some<T>): Some<T | undefined> => fc.option(value, { nil: undefined });

function withoutAbsent<T extends object>(record: T): { [K in keyof T]: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(record).filter(([, value]) => value !== undefined)) as never;
}

/** Begins with a letter that starts no field and has no sign that means something; octets above ASCII occur. */
export const anyComment = fc
  .string({ unit: fc.constantFrom(...'abcXYZ 0189,.:;-#\xe4\xf6\xff'), minLength: 0, maxLength: 24 })
  .map((text) => `x${text}`.trimEnd());
const word = fc.stringMatching(/^[A-Z][A-Z0-9]{2,7}$/);
const anyCall = fc
  // BLN and NWS address bulletins.
  .tuple(fc.stringMatching(/^[AC-MO-Z][A-Z0-9]{2,5}$/), fc.nat(15))
  .map(([call, ssid]) => (ssid ? `${call}-${ssid}` : call));
const symbol = fc.record({
  table: fc.constantFrom(...'/\\0A'),
  code: fc.constantFrom(...'>-#jk&[Oy'),
});
const sign = fc.constantFrom(1, -1);
/** Hundredths of a minute. */
const latitude = fc.tuple(fc.integer({ min: 1, max: 539_999 }), sign);
const longitude = fc.tuple(fc.integer({ min: 1, max: 1_079_999 }), sign);

const plainPlace = fc.tuple(latitude, longitude).map(([[lat, ns], [lon, ew]]) => ({
  latitudeDeg: (ns * lat) / 6000,
  longitudeDeg: (ew * lon) / 6000,
}));

const BLANKED = [1, 10, 100, 1000, 6000];
const ambiguousPlace = fc
  .tuple(latitude, longitude, fc.integer({ min: 1, max: 4 }))
  .map(([[lat, ns], [lon, ew], ambiguityDigits]) => {
    const box = BLANKED[ambiguityDigits] as number;
    const middle = (value: number): number => (Math.floor(value / box) * box + box / 2) / 6000;
    return { latitudeDeg: ns * middle(lat), longitudeDeg: ew * middle(lon), ambiguityDigits };
  });

const finePlace = fc
  .record({
    latitude,
    longitude,
    a: fc.nat(9),
    o: fc.nat(9),
    form: fc.constantFrom('digits' as const, 'base-91' as const),
  })
  .map(({ latitude: [lat, ns], longitude: [lon, ew], a, o, form }) => {
    const parts = form === 'digits' ? 10 : 91;
    return {
      latitudeDeg: (ns * (lat + a / parts)) / 6000,
      longitudeDeg: (ew * (lon + o / parts)) / 6000,
      dao: { datum: 'W', form },
    };
  });

const compressedPlace = fc
  .tuple(fc.integer({ min: 0, max: 380_926 * 180 }), fc.integer({ min: 0, max: 190_463 * 360 }))
  .map(([y, x]) => ({ latitudeDeg: 90 - y / 380_926, longitudeDeg: -180 + x / 190_463 }));

const heightGainDirection = {
  heightM: fc.nat(9).map((h) => 10 * 2 ** h * METRES_PER_FOOT),
  gainDb: fc.nat(9),
  directivityDeg: steps(0, 8, 45),
};
const phg: Some<Phg> = facts<Omit<Phg, 'rangeM'>>({
  powerW: fc.nat(9).map((p) => p * p),
  ...heightGainDirection,
  beaconsPerHour: maybe(fc.integer({ min: 1, max: 35 })),
}).map((value) => ({
  ...value,
  rangeM:
    Math.sqrt(
      2 *
        (value.heightM / METRES_PER_FOOT) *
        Math.sqrt((value.powerW / 10) * (10 ** (value.gainDb / 10) / 2)),
    ) * METRES_PER_MILE,
}));
const dfs: Some<Dfs> = facts<Dfs>({ strengthS: fc.nat(9), ...heightGainDirection });
const bearing: Some<Bearing> = facts<Bearing>({
  bearingDeg: fc.nat(359),
  hits: maybe(steps(1, 8, 1 / 8)),
  rangeM: fc.nat(9).map((r) => 2 ** r * METRES_PER_MILE),
  widthDeg: fc.constantFrom(undefined, 240, 120, 64, 32, 16, 8, 4, 2, 1),
});
const motion = fc.record({
  courseDeg: fc.integer({ min: 1, max: 359 }),
  speedMps: steps(0, 799, MPS_PER_KNOT),
});

const extension: Some<Partial<AprsReport>> = fc.oneof(
  fc.constant({}),
  motion,
  fc.tuple(motion, bearing).map(([move, towards]) => ({ ...move, bearing: towards })),
  phg.map((value) => ({ phg: value })),
  dfs.map((value) => ({ dfs: value })),
  steps(0, 9999, METRES_PER_MILE).map((rangeM) => ({ rangeM })),
);

const frequency: Some<Frequency> = fc
  .record({
    frequencyMHz: fc
      .oneof(steps(100_000, 999_999, 1), steps(1_240_000, 1_299_999, 1))
      .map((khz) => khz / 1000),
    tone: fc.oneof(
      fc.constant({}),
      fc.record({ toneHz: fc.constantFrom(...CTCSS_TONES_HZ) }),
      fc.record({ toneHz: fc.constantFrom(...CTCSS_TONES_HZ), toneSquelch: fc.constant(true) }),
      fc.constantFrom({ dcs: '023' }, { dcs: '754', narrow: true }, { toneOff: true }, { toneHz: 1750 }),
    ),
    rest: facts<Frequency>({
      frequencyMHz: fc.constant(undefined),
      toneHz: fc.constant(undefined),
      dcs: fc.constant(undefined),
      toneSquelch: fc.constant(undefined),
      toneOff: fc.constant(undefined),
      narrow: fc.constant(undefined),
      offsetKHz: maybe(steps(-999, 999, 10)),
      rangeKm: maybe(steps(0, 99, METRES_PER_MILE / 1000)),
      receiveMHz: maybe(steps(100_000, 999_999, 1).map((khz) => khz / 1000)),
    }),
  })
  .map(({ frequencyMHz, tone, rest }) => ({ frequencyMHz, ...tone, ...rest }));

const telemetryInComment: Some<Telemetry> = facts<Omit<Telemetry, 'channels'>>({
  sequence: fc.nat(8280),
  analog: fc.array(fc.nat(8280), { minLength: 5, maxLength: 5 }),
  digital: maybe(fc.stringMatching(/^[01]{8}$/)),
});

/** What may hide in a comment. */
const hidden = facts<Partial<AprsReport>>({
  comment: maybe(anyComment),
  frequency: maybe(frequency),
  altitudeM: maybe(steps(-9999, 99_999, METRES_PER_FOOT)),
  telemetry: maybe(telemetryInComment),
} as never);

const timestamp = fc
  .tuple(fc.constantFrom('dhm-zulu' as const, 'hms' as const), fc.integer({ min: 0, max: 4e9 }))
  .map(([form, seconds]) => timestampAt(form, seconds * 1000));

const place = fc.oneof(plainPlace, ambiguousPlace, finePlace);
const compressed = fc
  .record({
    place: compressedPlace,
    extra: fc.oneof(
      fc.constant({}),
      fc.record({
        courseDeg: steps(0, 89, 4),
        speedMps: fc.nat(90).map((s) => (1.08 ** s - 1) * MPS_PER_KNOT),
      }),
      fc.nat(90).map((s) => ({ rangeM: 2 * 1.08 ** s * METRES_PER_MILE })),
    ),
    compression: fc.record({
      gpsFix: fc.constantFrom('current' as const, 'old' as const),
      source: fc.constantFrom('other' as const, 'GLL' as const, 'RMC' as const),
      origin: fc.nat(7),
    }),
  })
  .map(({ place: at, extra, compression }) => ({ ...at, ...extra, compression }));
const compressedAltitude = fc.tuple(compressedPlace, fc.integer({ min: 0, max: 8190 })).map(([at, cs]) => ({
  ...at,
  altitudeM: 1.002 ** cs * METRES_PER_FOOT,
  compression: { gpsFix: 'current' as const, source: 'GGA' as const, origin: 2 },
}));
const located = fc.oneof(
  fc.tuple(place, extension, hidden).map((parts) => Object.assign({}, ...parts) as Partial<AprsReport>),
  fc.tuple(compressed, hidden).map(([at, more]) => ({ ...more, ...at })),
  compressedAltitude,
);

const position: Some<AprsReport> = fc
  .record({ at: located, symbol, messaging: fc.boolean(), time: maybe(timestamp) })
  .map(({ at, symbol: mark, messaging, time }) => ({
    type: 'position',
    messaging,
    ...(time ? { timestamp: time } : {}),
    ...at,
    symbol: mark,
  }));

const weatherFields: Some<Weather> = facts<Weather>({
  windDirectionDeg: maybe(fc.integer({ min: 0, max: 359 })),
  windSpeedMps: maybe(steps(0, 250, MPS_PER_MPH)),
  windGustMps: maybe(steps(0, 250, MPS_PER_MPH)),
  temperatureC: maybe(fc.integer({ min: -99, max: 150 }).map(fahrenheitToCelsius)),
  rainLastHourMm: maybe(steps(0, 999, MM_PER_INCH / 100)),
  rainLast24hMm: maybe(steps(0, 999, MM_PER_INCH / 100)),
  rainSinceMidnightMm: maybe(steps(0, 999, MM_PER_INCH / 100)),
  snowLast24hMm: maybe(steps(0, 99, MM_PER_INCH)),
  humidityPercent: maybe(fc.integer({ min: 1, max: 100 })),
  pressureHpa: maybe(steps(8000, 11_000, 0.1)),
  luminosityWm2: maybe(fc.nat(1999)),
  rainCounter: maybe(fc.nat(999)),
  waterLevelM: maybe(steps(-999, 9999, 0.1)),
  batteryV: maybe(steps(0, 999, 0.1)),
  radiationNsvPerHour: maybe(
    fc.tuple(fc.integer({ min: 10, max: 99 }), fc.nat(9)).map(([figures, power]) => figures * 10 ** power),
  ),
});
const weather: Some<AprsReport> = fc.oneof(
  fc
    .record({ at: place, weather: weatherFields, messaging: fc.boolean(), time: maybe(timestamp) })
    .map(({ at, time, ...rest }): AprsReport => ({
      type: 'weather',
      ...rest,
      ...(time ? { timestamp: time } : {}),
      ...at,
      symbol: { table: '/', code: '_' },
      comment: 'xWx1',
    })),
  fc
    .record({ seconds: fc.nat(4e9 / 2), weather: weatherFields })
    .map(({ seconds, weather: fields }): AprsReport => ({
      type: 'weather',
      timestamp: timestampAt('mdhm', seconds * 1000),
      weather: fields,
    })),
);

const area: Some<Area> = facts<Area>({
  shape: fc.constantFrom('circle' as const, 'line-left' as const, 'line-right' as const, 'triangle' as const),
  filled: fc.constant(false),
  latitudeOffsetDeg: fc.nat(99).map((root) => root ** 2 / 1500),
  longitudeOffsetDeg: fc.nat(99).map((root) => root ** 2 / 1500),
  colour: fc.constantFrom('black' as const, 'red' as const, 'grey' as const),
  dim: fc.boolean(),
  corridorM: maybe(steps(0, 999, METRES_PER_MILE)),
});
const storm: Some<Storm> = facts<Storm>({
  kind: fc.constantFrom('tropical-depression' as const, 'tropical-storm' as const, 'hurricane' as const),
  sustainedWindMps: steps(0, 250, MPS_PER_KNOT),
  gustMps: steps(0, 250, MPS_PER_KNOT),
  pressureHpa: fc.integer({ min: 850, max: 1050 }),
  hurricaneRadiusM: steps(0, 999, METRES_PER_NAUTICAL_MILE),
  stormRadiusM: steps(0, 999, METRES_PER_NAUTICAL_MILE),
  galeRadiusM: maybe(steps(0, 999, METRES_PER_NAUTICAL_MILE)),
});
const special: Some<Partial<AprsReport>> = fc.oneof(
  fc
    .tuple(plainPlace, area)
    .map(([at, value]) => ({ ...at, area: value, symbol: { table: '\\', code: 'l' } })),
  fc
    .tuple(plainPlace, motion, storm)
    .map(([at, move, value]) => ({ ...at, ...move, storm: value, symbol: { table: '\\', code: '@' } })),
  plainPlace.map((at) => ({ ...at, signpost: '55', symbol: { table: '\\', code: 'm' } })),
  fc.tuple(located, symbol).map(([at, mark]) => ({ ...at, symbol: mark })),
);
const object: Some<AprsReport> = fc
  .record({ at: special, name: word, live: fc.boolean(), time: timestamp })
  .map(({ at, name, live, time }) => ({ type: 'object', ...at, object: { name, live }, timestamp: time }));
const item: Some<AprsReport> = fc
  .record({ at: special, name: word, live: fc.boolean() })
  .map(({ at, name, live }) => ({ type: 'item', ...at, object: { name, live } }));

const messageText = fc
  .string({ unit: fc.constantFrom(...'abc XYZ.,?!09\xe4'), maxLength: 67 })
  .map((t) => `m${t}`);
const number = fc.stringMatching(/^[A-Za-z0-9]{1,5}$/);
const twoSigns = fc.stringMatching(/^[A-Za-z0-9]{2}$/);
const message: Some<AprsReport> = fc.oneof(
  fc
    .record({ addressee: anyCall, text: messageText, number: maybe(number) })
    .map((value): AprsReport => ({ type: 'message', message: withoutAbsent(value) })),
  fc
    .record({ addressee: anyCall, text: messageText, number: twoSigns, replyAck: twoSigns })
    .map((value): AprsReport => ({ type: 'message', message: value })),
  fc
    .record({ addressee: anyCall, number, replyAck: maybe(twoSigns) })
    .map((value): AprsReport => ({ type: 'ack', message: withoutAbsent(value) })),
  fc.record({ addressee: anyCall, number }).map((value): AprsReport => ({ type: 'rej', message: value })),
  fc
    .record({
      id: fc.constantFrom(...'0123456789QZ'),
      group: maybe(fc.constantFrom('WX', 'HILLS')),
      text: messageText,
    })
    .map(({ id, group, text }): AprsReport => ({
      type: /\d/.test(id) ? 'bulletin' : 'announcement',
      bulletin: withoutAbsent({ id, group }),
      message: { addressee: `BLN${id}${group ?? ''}`, text },
    })),
);

const telemetry: Some<AprsReport> = facts<Omit<Telemetry, 'channels'>>({
  sequence: fc.oneof(fc.nat(999), fc.constant('MIC' as const)),
  analog: fc.array(fc.nat(255), { minLength: 5, maxLength: 5 }),
  digital: maybe(fc.stringMatching(/^[01]{8}$/)),
}).map((value): AprsReport => ({ type: 'telemetry', telemetry: value }));

const definition: Some<AprsReport> = fc.tuple(anyCall, fc.nat(2)).map(([addressee, which]) => {
  const chosen = [
    { kind: 'PARM' as const, names: ['Battery', 'Btemp', 'A2'] },
    { kind: 'BITS' as const, active: '10110000', title: 'Balloon' },
    {
      kind: 'EQNS' as const,
      coefficients: [
        { a: 0, b: 5.2, c: 0 },
        { a: 0, b: 0.53, c: -32 },
      ],
    },
  ][which] as NonNullable<AprsReport['telemetryDefinition']>;
  const texts = ['PARM.Battery,Btemp,A2', 'BITS.10110000,Balloon', 'EQNS.0,5.2,0,0,0.53,-32'];
  return {
    type: 'telemetry-definition',
    telemetryDefinition: chosen,
    message: { addressee, text: texts[which] as string },
  };
});

const others: Some<AprsReport> = fc.oneof(
  fc.tuple(maybe(timestamp), anyComment).map(([time, status]): AprsReport => ({
    type: 'status',
    ...(time?.form === 'dhm-zulu' ? { timestamp: time } : {}),
    status,
  })),
  fc.tuple(anyComment, fc.nat(35), fc.nat(27)).map(([status, heading, power]): AprsReport => ({
    type: 'status',
    status,
    beam: { headingDeg: heading * 10, erpW: 10 * power ** 2 },
  })),
  fc.constantFrom('APRS', 'WX', 'IGATE').map((name): AprsReport => ({ type: 'query', query: { name } })),
  fc
    .tuple(steps(-8999, 8999, 0.01), steps(-17_999, 17_999, 0.01), fc.nat(9999))
    .map(([latitudeDeg, longitudeDeg, miles]): AprsReport => ({
      type: 'query',
      query: { name: 'APRS', latitudeDeg, longitudeDeg, radiusM: miles * METRES_PER_MILE },
    })),
  fc.nat(99).map((count): AprsReport => ({
    type: 'capabilities',
    capabilities: [{ name: 'IGATE' }, { name: 'MSG_CNT', value: String(count) }],
  })),
  anyComment.map((data): AprsReport => ({
    type: 'user-defined',
    userDefined: { userId: 'Q', packetType: '1', data },
  })),
);

const micE: Some<AprsReport> = fc
  .record({
    at: fc.oneof(plainPlace, ambiguousPlace),
    move: motion,
    symbol,
    message: fc.constantFrom('emergency', 'off duty', 'returning', 'custom 0', 'custom 5', 'priority'),
    gpsFix: fc.constantFrom('current' as const, 'old' as const),
    kind: fc.constantFrom({}, { prefix: '>' }, { prefix: ']', suffix: '=' }, { prefix: '`', suffix: '_%' }),
    more: facts<Partial<AprsReport>>({
      comment: maybe(anyComment),
      altitudeM: maybe(fc.integer({ min: -9999, max: 40_000 })),
    } as never),
  })
  .map(({ at, move, symbol: mark, message: says, gpsFix, kind, more }) => ({
    type: 'mic-e',
    ...at,
    ...move,
    symbol: mark,
    // Whoever has this prefix sends current data under either first octet.
    micE: { message: says, gpsFix: kind.prefix === ']' ? 'current' : gpsFix, ...kind },
    ...more,
  }));

const plainReport = fc.oneof(position, weather, object, item, message, telemetry, definition, others);
const thirdParty: Some<AprsReport> = fc
  .record({ source: anyCall, report: plainReport })
  .map(({ source, report }) => ({
    type: 'third-party',
    thirdParty: { source, destination: 'APZMPK', path: ['TCPIP', 'QH3PRT-10*'], report },
  }));

export const ANY_REPORT: Readonly<Record<string, Some<AprsReport>>> = {
  position,
  weather,
  object,
  item,
  message,
  telemetry,
  definition,
  others,
  'mic-e': micE,
  'third-party': thirdParty,
};
export const anyReport: Some<AprsReport> = fc.oneof(...Object.values(ANY_REPORT));
