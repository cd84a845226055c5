import { parseMonitorText } from '../ax25/monitor-text.js';
import { uiFrame, type Ax25Frame } from '../ax25/frame.js';
import { parseAprs } from '../aprs/parse.js';
import { fromLatin1 } from '../bits/octets.js';
import { encodeMicE } from '../aprs/mic-e.js';
import { channelHealth, type AiredPacket } from './channel-health.js';
import { COPY_WITHIN_MS, foldCopies } from './copies.js';
import { fits, kindOfPacket, type PacketFilter } from './filter.js';
import { wayKindOf, wayWords, type HeardPacket } from './heard-packet.js';
import { searchText, searchWords, trigramCodes } from './search-text.js';
import { sequenceGaps } from './sequence-gaps.js';
import { bitValues, channelValues, define, NO_DEFINITIONS } from './telemetry-series.js';
import { pressureTrend, weatherOutlook, windTrend, type WeatherAt } from './weather-outlook.js';

let last = 0;
function packet(line: string, more: Partial<HeardPacket> = {}): HeardPacket {
  const frame = parseMonitorText(line) as Ax25Frame;
  return {
    id: `p${last++}`,
    atMs: 0,
    frame,
    report: parseAprs(frame.info, frame.destination),
    octets: 60,
    ...more,
  };
}
const CART = 'QH7CTA-9>APZMPK,WIDE1-1,WIDE2-1:!2936.00S/01124.00W>cart A';

describe('copies of one packet', () => {
  it('are one, in the order of the first, with the way of each', () => {
    const folded = foldCopies([
      packet(CART, { atMs: 0 }),
      packet('QH8CLA-7>APZMPK:>walking', { atMs: 500 }),
      packet(CART.replace('WIDE1-1', 'QH1TOP*'), { atMs: 900 }),
      packet(CART.replace('WIDE1-1,WIDE2-1', 'QH1ANR,QH1TOP*'), { atMs: 1800 }),
    ]);
    expect(folded.map(({ first, copies }) => [first.frame.source, copies.map(wayWords)])).toEqual([
      ['QH7CTA-9', ['direct', 'QH1TOP', 'QH1ANR–QH1TOP']],
      ['QH8CLA-7', ['direct']],
    ]);
  });

  it('come within a minute of the first, not of one another', () => {
    const times = [0, COPY_WITHIN_MS, COPY_WITHIN_MS + 1];
    const folded = foldCopies(times.map((atMs) => packet(CART, { atMs })));
    expect(folded.map(({ copies }) => copies.length)).toEqual([2, 1]);
  });

  it('belong to what was sent last: sent again, it is a packet of its own', () => {
    const back = CART.replace('WIDE1-1', 'QH1TOP*');
    const folded = foldCopies([
      packet(CART, { isSent: true }),
      packet(CART, { atMs: 31_000, isSent: true }),
      packet(back, { atMs: 32_000 }),
    ]);
    expect(folded.map(({ copies }) => copies.map(wayWords))).toEqual([['sent'], ['sent', 'QH1TOP']]);
  });

  it('of a connection there are none: a repeat is a frame of its own', () => {
    const poll: Ax25Frame = {
      ...uiFrame('A1AAA', 'B1BBB', [], new Uint8Array()),
      control: { kind: 'RR', nr: 1, pf: true },
    };
    expect(foldCopies([packet(CART, { frame: poll }), packet(CART, { frame: poll })])).toHaveLength(2);
  });
});

describe('the way of a packet', () => {
  it.each([
    [packet(CART), 'direct', 'direct'],
    [packet(CART.replace('WIDE1-1', 'QH1TOP*')), 'repeated', 'QH1TOP'],
    [packet(CART.replace('WIDE1-1', 'WIDE1*')), 'repeated', '?'],
    [packet(CART, { byInternet: true }), 'internet', 'internet'],
    [packet(CART, { isSent: true }), 'own', 'sent'],
    [packet(CART.replace('QH7CTA', 'QH4MPK').replace('WIDE1-1', 'QH1TOP*')), 'own', 'QH1TOP'],
  ] as const)('%#: %s', (one, kind, words) => {
    expect([wayKindOf(one, 'QH4MPK'), wayWords(one)]).toEqual([kind, words]);
  });
});

describe('what fits', () => {
  const here = { position: { latitudeDeg: -29.6, longitudeDeg: -11.4 }, call: 'QH4MPK' };
  const far = packet('QH7CTB-9>APZMPK,RELAY:!2936.00S/01134.00W>cart B');
  const weather = packet('QH6WXA-13>APZMPK:!2939.07S/01117.23W_090/004g010t061h80b10130');

  it.each<[PacketFilter, HeardPacket, boolean]>([
    [{}, far, true],
    [{ kinds: ['position'] }, far, true],
    [{ kinds: ['weather', 'message'] }, far, false],
    [{ kinds: ['weather'] }, weather, true],
    [{ ways: ['direct'] }, far, true],
    [{ ways: ['repeated', 'own'] }, far, false],
    [{ withinKm: 17 }, far, true],
    [{ withinKm: 16 }, far, false],
    [{ withinKm: 16 }, packet('QH8CLA-7>APZMPK:>no place'), false],
    [{ station: 'qh7ctb' }, far, true],
    [{ station: 'QH7CTA' }, far, false],
    [{ words: 'CART b' }, far, true],
    [{ words: 'cart x' }, far, false],
    [{ misuse: true }, far, true],
    [{ misuse: true }, packet(CART), false],
    [{ kinds: ['position'], words: 'cart', misuse: true, ways: ['direct'], withinKm: 20 }, far, true],
  ])('%j', (filter, one, isWanted) => expect(fits(filter, one, here)).toBe(isWanted));

  it('a distance from nowhere is none', () => expect(fits({ withinKm: 1e5 }, far, {})).toBe(false));

  it('an object is found by its name, what a gateway passed on by whoever is inside', () => {
    const object = packet('QH3PRT-10>APZMPK:;KITCHEN  *111111z2935.63S\\01120.70WRsoup');
    const passedOn = packet('QH3PRT-10>APZMPK:}QH5OST-10>APZMPK,TCPIP,QH3PRT-10*:!2931.93SW01118.41W&gate');
    expect(fits({ station: 'KITCH' }, object)).toBe(true);
    expect(fits({ station: 'QH5OST' }, passedOn)).toBe(true);
    expect(fits({ withinKm: 12 }, passedOn, here)).toBe(true);
  });

  it.each([
    ['QH7CTA-9>APZMPK:;H3       *111111z2935.63S/01120.70W;', 'object'],
    ['QH7CTA-9>APZMPK:)H33!2935.63S/01120.70W;', 'object'],
    ['QH7CTA-9>APZMPK::QH4MPK   :hello{1', 'message'],
    ['QH7CTA-9>APZMPK::BLN1     :hello', 'message'],
    ['QH7CTA-9>APZMPK:T#005,199,000,255,073,123,01101001', 'telemetry'],
    ['QH7CTA-9>APZMPK::QH7CTA-9 :PARM.Volt', 'telemetry'],
    ['QH7CTA-9>APZMPK:>hello', 'status'],
    ['QH7CTA-9>APZMPK:?APRS?', 'other'],
    ['QH7CTA-9>APZMPK:nothing that is known', 'other'],
    ['QH7CTA-9>APZMPK:}A1AAA>APZMPK:>inside', 'status'],
  ])('%s is a kind of its own: %s', (line, kind) => expect(kindOfPacket(packet(line))).toBe(kind));

  it('a frame of a connection is a session', () => {
    const frame = {
      ...uiFrame('A1AAA', 'B1BBB', [], new Uint8Array()),
      control: { kind: 'DISC', pf: true },
    } as Ax25Frame;
    expect(kindOfPacket({ frame })).toBe('session');
  });
});

describe('the text by which it is found', () => {
  it('is the monitor line in small letters, and what a packed report says', () => {
    expect(searchText(packet(CART))).toBe(CART.toLowerCase());
    const { destination, info } = encodeMicE({
      type: 'mic-e',
      latitudeDeg: -29.6,
      longitudeDeg: -11.4,
      symbol: { table: '/', code: '>' },
      micE: { message: 'en route', gpsFix: 'current' },
    });
    const frame = uiFrame('QH7CTE-9', destination, [], fromLatin1(info));
    expect(searchText({ frame, report: parseAprs(frame.info, destination) })).toMatch(
      /^qh7cte-9>.* en route$/,
    );
  });

  it('words are what blanks part, each once', () => {
    expect(searchWords('  Cart  A cart ')).toEqual(['cart', 'a']);
    expect(searchWords(' ')).toEqual([]);
  });
});

describe('three letters in a row', () => {
  it('of a word are among those of any text that holds it, and across blanks there are none', () => {
    const text = trigramCodes('qh7cta-9>apzmpk:cart a');
    for (const word of ['cart', 'apz', '9>a', 'qh7cta-9>apzmpk:cart'])
      for (const code of trigramCodes(word)) expect(text.has(code)).toBe(true);
    expect([...trigramCodes('t a')]).toEqual([]);
    expect(text.has([...trigramCodes('rta')][0] as number)).toBe(false);
  });

  it('have a number each, below 2^30', () => {
    expect([...trigramCodes('abc')]).toEqual([(97 << 20) | (98 << 10) | 99]);
    for (const code of trigramCodes('\uffff\uffff\uffff')) expect(code).toBe(2 ** 30 - 1);
  });
});

describe('losses by a station’s own numbers', () => {
  it.each([
    [[], 1000, 0, 0],
    [[5, 6, 7], 1000, 3, 0],
    [[5, 5, 6], 1000, 2, 0],
    [[5, 8], 1000, 2, 2],
    [[998, 1], 1000, 2, 2],
    [[5, 8, 6], 1000, 3, 1],
    [[5, 65], 1000, 2, 59],
    [[5, 66], 1000, 2, 0],
    [[500, 3, 4], 1000, 3, 0],
    [[8280, 0], 8281, 2, 0],
  ])('%j of %i: %i came, %i lost', (numbers, turn, came, lost) => {
    expect(sequenceGaps(numbers, turn)).toEqual({ came, lost });
  });
});

describe('telemetry by the station’s own definitions', () => {
  const definitions = [
    { kind: 'PARM', names: ['Battery', 'Inside', '', '', '', 'Door', 'Lamp'] },
    { kind: 'UNIT', names: ['V', 'deg C', '', '', '', 'open', 'on'] },
    {
      kind: 'EQNS',
      coefficients: [
        { a: 0, b: 0.05, c: 1 },
        { a: 0.001, b: -0.5, c: 64 },
      ],
    },
    { kind: 'BITS', active: '01111111', title: 'Hut' },
  ] as const;
  const told = definitions.reduce(define, NO_DEFINITIONS);

  it('a·v² + b·v + c, reckoned by hand; what is not defined stays as it was sent', () => {
    const values = channelValues({ sequence: 1, analog: [240, 100, 7] }, told);
    expect(values).toEqual([
      { channel: 1, name: 'Battery', unit: 'V', value: 13 },
      { channel: 2, name: 'Inside', unit: 'deg C', value: 24 },
      { channel: 3, name: 'channel 3', unit: '', value: 7 },
    ]);
    expect(told.title).toBe('Hut');
  });

  it('channels that were sent alone keep their number', () => {
    expect(channelValues({ sequence: 1, analog: [100], channels: [2] }, told)[0]).toMatchObject({
      name: 'Inside',
      value: 24,
    });
  });

  it('a bit is on when it stands as BITS says', () => {
    expect(bitValues({ sequence: 1, analog: [], digital: '01000000' }, told)).toEqual([
      { name: 'Door', word: 'open', isOn: true },
      { name: 'Lamp', word: 'on', isOn: true },
    ]);
    expect(bitValues({ sequence: 1, analog: [], digital: '10000000' }, told).map(({ isOn }) => isOn)).toEqual(
      [false, false],
    );
    expect(bitValues({ sequence: 1, analog: [] }, told)).toEqual([]);
  });
});

describe('how the weather goes', () => {
  const HOUR = 3_600_000;
  const pressures = (...values: [hours: number, hpa: number][]): WeatherAt[] =>
    values.map(([hours, pressureHpa]) => ({ atMs: hours * HOUR, weather: { pressureHpa } }));

  it.each([
    [pressures([0, 1013], [3, 1013.4]), 'steady'],
    [pressures([0, 1013], [3, 1013.5]), 'rising'],
    [pressures([0, 1013], [3, 1009.6]), 'falling'],
    [pressures([0, 1013], [3, 1009.5]), 'falling fast'],
    // Scaled to three hours from the hour and a half that there is.
    [pressures([1.5, 1013], [3, 1014.75]), 'rising fast'],
    [pressures([2.1, 1013], [3, 1016]), undefined],
    [pressures([-0.1, 900], [1, 1013], [3, 1013]), 'steady'],
    [[], undefined],
  ])('%#: the pressure is %s', (reports, trend) => expect(pressureTrend(reports, 3 * HOUR)).toBe(trend));

  const winds = (before: number, now: number): WeatherAt[] =>
    [before, before, now, now].map((windSpeedMps, i) => ({
      atMs: (2 + (i + 1) / 4) * HOUR,
      weather: { windSpeedMps },
    }));

  it.each([
    [4, 5.9, 'steady'],
    [4, 6, 'rising'],
    [6, 4, 'easing'],
    [12, 14.9, 'steady'],
    [12, 15, 'rising'],
  ])('wind of %f, then %f m/s is %s', (before, now, trend) =>
    expect(windTrend(winds(before, now), 3 * HOUR)).toBe(trend),
  );

  it('without both halves of the hour nobody knows', () => {
    expect(windTrend(winds(4, 6).slice(2), 3 * HOUR)).toBeUndefined();
  });

  it('in dry words, in the operator’s units', () => {
    const reports = winds(6, 12).map((one, i) => ({
      ...one,
      weather: { ...one.weather, windGustMps: 18, pressureHpa: 1013 - i },
    }));
    expect(weatherOutlook(reports, 3 * HOUR, 'metric')).toBe('gusts 18 m/s, rising');
    expect(
      weatherOutlook([{ atMs: 0, weather: { pressureHpa: 1013 } }, ...reports], 3 * HOUR, 'nautical'),
    ).toBe('gusts 35 kt, rising; pressure falling');
    expect(weatherOutlook([], 0, 'metric')).toBe('');
    expect(weatherOutlook([{ atMs: 0, weather: { windSpeedMps: 3 } }], 0, 'imperial')).toBe('wind 7 mph');
  });
});

describe('the channel', () => {
  const MINUTE = 60_000;
  const aired = (line: string, atMs: number, airMs = 600, more: Partial<AiredPacket> = {}): AiredPacket => ({
    ...packet(line, { atMs }),
    airMs,
    ...more,
  });

  it('each minute by what held it, a frame across the minute counting for both', () => {
    const { minutes } = channelHealth([aired(CART, 30_000, 6000), aired(CART, 61_000, 3000)], 0, 3 * MINUTE);
    expect(minutes).toEqual([8000 / MINUTE, 1000 / MINUTE, 0]);
  });

  it('what came by the internet, or outside of the time, costs nothing', () => {
    const { senders } = channelHealth(
      [aired(CART, 1000, 600, { byInternet: true }), aired(CART, 0), aired(CART, MINUTE + 1)],
      0,
      MINUTE,
    );
    expect(senders).toEqual([]);
  });

  it('senders with their copies, and ways, the dearest first', () => {
    const { senders, ways } = channelHealth(
      [
        aired('QH8CLA-7>APZMPK:>walking', 1000, 500),
        aired(CART, 2000),
        aired(CART.replace('WIDE1-1', 'QH1TOP*'), 3000),
      ],
      0,
      MINUTE,
    );
    expect(senders).toEqual([
      { name: 'QH7CTA-9', airMs: 1200, packets: 1, frames: 2 },
      { name: 'QH8CLA-7', airMs: 500, packets: 1, frames: 1 },
    ]);
    expect(ways.map(({ name, airMs }) => [name, airMs])).toEqual([
      ['direct', 1100],
      ['QH1TOP', 600],
    ]);
  });

  it('what breaks a rule, once for each station and rule', () => {
    const line = 'QH8BTB-8>APZMPK,WIDE1-1,WIDE3-3:>boat';
    const { misuse } = channelHealth(
      [aired(line, 1000), aired(`${line}!`, 2000), aired('QH7CTA-9>APZMPK,RELAY:>old', 3000)],
      0,
      MINUTE,
    );
    expect(misuse).toMatchObject([
      { call: 'QH8BTB-8', count: 2, lastAtMs: 2000, text: 'it asks for 4 hops in all' },
      { call: 'QH7CTA-9', count: 1 },
    ]);
  });

  it('digipeaters with what they served', () => {
    const { digipeaters } = channelHealth([aired('QH7CTA-9>APZMPK,QH1TOP,WIDE2*:>x', 1000)], 0, MINUTE);
    expect(digipeaters).toMatchObject([{ call: 'QH1TOP', count: 1 }]);
  });

  it('a copy without its original, while another was on the air, is probably run over', () => {
    const direct = (i: number): AiredPacket => aired(`QH7CTA-9>APZMPK,WIDE2-1:>no ${i}`, i * 10_000);
    const copyOf = (i: number, more = ''): AiredPacket =>
      aired(`QH7CTA-9>APZMPK,QH1TOP*:>no ${i}${more}`, i * 10_000 + 700);
    const other = (atMs: number): AiredPacket => aired('QH8CLA-7>APZMPK:>walking', atMs, 500);
    const heard = [direct(1), direct(2), direct(3)];
    // The original of no. 4 ended at most 3 s before the copy began, at 40.1 s.
    expect(channelHealth([...heard, other(39_800), copyOf(4)], 0, MINUTE).runOver).toEqual([
      { call: 'QH7CTA-9', count: 1, of: 4 },
    ]);
    expect(channelHealth([...heard, other(36_500), copyOf(4)], 0, MINUTE).runOver).toEqual([]);
    expect(channelHealth([...heard, other(36_501), copyOf(4)], 0, MINUTE).runOver).toHaveLength(1);
    expect(channelHealth([...heard, copyOf(4), other(40_700)], 0, MINUTE).runOver).toEqual([]);
    // Who is seldom heard direct is expected by a repeater alone.
    expect(
      channelHealth([direct(1), direct(2), copyOf(3), other(39_800), copyOf(4)], 0, MINUTE).runOver,
    ).toEqual([]);
    expect(channelHealth([direct(1), direct(2), other(39_800), copyOf(4)], 0, MINUTE).runOver).toEqual([]);
  });
});
