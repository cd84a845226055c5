/**
 * Worked examples of the APRS Protocol Reference 1.0.1 (2000) and its addenda; the chapter's title is given.
 * Numbers were worked out by hand from the formulas there.
 */
export interface AprsVector {
  readonly from: string;
  readonly info: string;
  readonly destination?: string;
  readonly says: object;
}

/** A figure that is only known so closely: decimal places, below 0 tens and hundreds. */
export interface Near {
  readonly near: number;
  readonly decimals: number;
}

export const near = (value: number, decimals: number): Near => ({ near: value, decimals });

const KNOT = 1852 / 3600;
const MPH = 1609.344 / 3600;

export const APRS_VECTORS: readonly AprsVector[] = [
  {
    from: '"Position and DF report data formats": no timestamp, no messaging',
    info: '!4903.50N/07201.75W-Test 001234',
    says: {
      type: 'position',
      messaging: false,
      latitudeDeg: 49.058333,
      longitudeDeg: -72.029167,
      symbol: { table: '/', code: '-' },
      comment: 'Test 001234',
    },
  },
  {
    from: '"Position and DF report data formats": altitude in the comment',
    info: '!4903.50N/07201.75W-Test /A=001234',
    says: { altitudeM: 1234 * 0.3048, comment: 'Test' },
  },
  {
    from: '"Position ambiguity": the middle of the box, half a minute on',
    info: '!4903.  N/07201.  W-',
    says: { ambiguityDigits: 2, latitudeDeg: 49 + 3.5 / 60, longitudeDeg: -(72 + 1.5 / 60) },
  },
  {
    from: '"Position and DF report data formats": with timestamp, with messaging, course and speed',
    info: '@092345/4903.50N/07201.75W>088/036',
    says: {
      messaging: true,
      timestamp: { form: 'dhm-local', text: '092345/' },
      courseDeg: 88,
      speedMps: 36 * KNOT,
    },
  },
  {
    from: '"APRS data extensions": power, height, gain, directivity; 7.95 miles by the formula',
    info: '!4903.50N/07201.75W#PHG5132',
    says: {
      phg: {
        powerW: 25,
        heightM: 20 * 0.3048,
        gainDb: 3,
        directivityDeg: 90,
        rangeM: near(7.95 * 1609.344, -2),
      },
    },
  },
  {
    from: '"Compressed position report data formats": 49°30′N 72°45′W, 88°, 36.2 kt',
    info: '=/5L!!<*e7>7P[',
    says: {
      latitudeDeg: 49.5,
      longitudeDeg: -72.75,
      symbol: { table: '/', code: '>' },
      courseDeg: 88,
      speedMps: near(36.2 * KNOT, 1),
    },
  },
  {
    from: '"Compressed position report data formats": range 20.13 miles',
    info: '=/5L!!<*e7>{?!',
    says: { rangeM: near(20.13 * 1609.344, -2) },
  },
  {
    from: '"Compressed position report data formats": altitude 10 004 feet',
    info: '=/5L!!<*e7OS]S',
    says: { altitudeM: near(10_004 * 0.3048, -1) },
  },
  {
    from: '"Mic-E data format": S32U6T = 33°25.64′N, returning; (_fn"O = 12°07.74′W, 20 kt, 251°',
    info: '`(_fn"Oj/',
    destination: 'S32U6T',
    says: {
      type: 'mic-e',
      latitudeDeg: 33 + 25.64 / 60,
      longitudeDeg: -(12 + 7.74 / 60),
      speedMps: 20 * KNOT,
      courseDeg: 251,
      symbol: { code: 'j', table: '/' },
      micE: { message: 'returning', gpsFix: 'current' },
    },
  },
  {
    from: '"Mic-E data format": the offset bit makes it 112°',
    info: '`(_fn"Oj/',
    destination: 'S32UVT',
    says: { longitudeDeg: -(112 + 7.74 / 60) },
  },
  {
    from: '"Mic-E data format": altitude "4T} = 61 m',
    info: '`(_fn"Oj/"4T}hello',
    destination: 'S32U6T',
    says: { altitudeM: 61, comment: 'hello' },
  },
  {
    from: '"Weather reports": complete report with position; mph, °F, hundredths of an inch, tenths of hPa',
    info: '!4903.50N/07201.75W_220/004g005t077r000p000P000h50b09900wRSW',
    says: {
      type: 'weather',
      weather: {
        windDirectionDeg: 220,
        windSpeedMps: 4 * MPH,
        windGustMps: 5 * MPH,
        temperatureC: 25,
        rainLastHourMm: 0,
        rainLast24hMm: 0,
        rainSinceMidnightMm: 0,
        humidityPercent: 50,
        pressureHpa: 990,
      },
      comment: 'wRSW',
    },
  },
  {
    from: '"Weather reports": positionless, missing sensors dotted',
    info: '_10090556c220s004g005t-07r...p...P...h00b.....',
    says: {
      type: 'weather',
      weather: {
        windDirectionDeg: 220,
        windSpeedMps: 4 * MPH,
        windGustMps: 5 * MPH,
        temperatureC: near(-21.67, 2),
        humidityPercent: 100,
      },
    },
  },
  {
    from: '"Object and item reports": live object',
    info: ';LEADER   *092345z4903.50N/07201.75W>088/036',
    says: {
      type: 'object',
      object: { name: 'LEADER', live: true },
      timestamp: { form: 'dhm-zulu', text: '092345z' },
      courseDeg: 88,
    },
  },
  {
    from: '"Object and item reports": killed item',
    info: ')AID #2_4903.50N/07201.75WA',
    says: { type: 'item', object: { name: 'AID #2', live: false } },
  },
  {
    from: '"Messages, bulletins and announcements": message with number',
    info: ':WU2Z     :Testing{003',
    says: { type: 'message', message: { addressee: 'WU2Z', text: 'Testing', number: '003' } },
  },
  {
    from: '"Messages, bulletins and announcements": acknowledgement and rejection',
    info: ':KB2ICI-14:ack003',
    says: { type: 'ack', message: { addressee: 'KB2ICI-14', number: '003' } },
  },
  { from: 'the same', info: ':KB2ICI-14:rej003', says: { type: 'rej' } },
  {
    from: '1.1 addendum, "Reply-acks": {MM}AA',
    info: ':WU2Z     :hello{AB}CD',
    says: { message: { addressee: 'WU2Z', text: 'hello', number: 'AB', replyAck: 'CD' } },
  },
  {
    from: '"Messages, bulletins and announcements": bulletin',
    info: ':BLN3     :Snow expected',
    says: { type: 'bulletin' },
  },
  { from: 'the same: announcement', info: ':BLNQ     :Mt St Helen digi', says: { type: 'announcement' } },
  {
    from: '"Status reports": with time',
    info: '>092345zNet Control Center',
    says: { type: 'status', status: 'Net Control Center' },
  },
  {
    from: '"APRS data type identifiers"',
    info: 'T#005,199,000,255,073,123,01101001',
    says: { type: 'telemetry' },
  },
];

/** What no reader may take for a report, and why. */
export const REFUSED: readonly { readonly info: string; readonly reason: string }[] = [
  { info: '', reason: 'the info field is empty' },
  { info: 'hello', reason: 'no APRS data type begins with "h"' },
  { info: '\x80abc', reason: 'no APRS data type begins with octet 80' },
  { info: '!9903.50N/07201.75W-', reason: 'the latitude is beyond 90°' },
  { info: '!4903.50N/18101.75W-', reason: 'the longitude is beyond 180°' },
  { info: '!49 3.50N/07201.75W-', reason: 'the blanks in the latitude are not at its end' },
  { info: '!4903.50X/07201.75W-', reason: 'the position is not of the form DDMM.hhN/DDDMM.hhW' },
  { info: '@4903.50N/07201.75W-', reason: 'the time is not DDHHMMz, DDHHMM/ or HHMMSSh' },
  { info: ':SHORT:hi', reason: 'the addressee is not padded to 9 characters' },
  { info: ';TOO SHORT', reason: 'an object is name, live or killed, time, position' },
  { info: '`(_f', reason: 'a Mic-E report has at least 9 octets' },
];
