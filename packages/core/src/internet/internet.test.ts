import fc from 'fast-check';
import { uiFrame } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { parsePath } from '../digipeating/alias.js';
import { formatFilter, parseFilter, type FilterPart } from './filter.js';
import { gateIn, gateOut, USUAL_OUT_RULES, type HeardOf } from './gate.js';
import { parseInternetLine, type InternetPacket } from './line.js';
import { LineCutter, LONGEST_LINE } from './lines.js';
import { SEEN_MS, SeenLately } from './seen-lately.js';
import { likelyWay, wayIn, waysInWords } from './way.js';

const packetOf = (line: string): InternetPacket => parseInternetLine(line) as InternetPacket;

describe('lines', () => {
  it('any octets up to CR LF; what is longer than 512 octets is dropped whole and counted', () => {
    const cutter = new LineCutter();
    const longest = 'x'.repeat(LONGEST_LINE - 2);
    expect(cutter.push(fromLatin1(`a\u00ff\u0000b\r\n\r\n${longest}\r\n${longest}y\r\nc\nd`))).toEqual([
      'a\u00ff\u0000b',
      longest,
      'c',
    ]);
    expect(cutter.tooLong).toBe(1);
    expect(cutter.push(fromLatin1('e\r'))).toEqual([]);
    expect(cutter.push(fromLatin1('\n'))).toEqual(['de']);
    for (let i = 0; i < 100; i++) expect(cutter.push(fromLatin1('z'.repeat(1000)))).toEqual([]);
    expect(cutter.push(fromLatin1('\nf\n'))).toEqual(['f']);
    expect(cutter.tooLong).toBe(2);
  });

  it('however the stream is cut, the lines are the same', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 600 })), fc.array(fc.nat(700)), (texts, cuts) => {
        const stream = fromLatin1(
          texts.map((text) => `${text.replace(/[^\u0000-\u00ff]/g, '?')}\r\n`).join(''),
        );
        const whole = new LineCutter();
        const pieces = new LineCutter();
        const lines: string[] = [];
        let at = 0;
        for (const cut of [...cuts, stream.length]) {
          lines.push(...pieces.push(stream.subarray(at, at + cut)));
          at += cut;
        }
        lines.push(...pieces.push(stream.subarray(Math.min(at, stream.length))));
        expect(lines).toEqual(whole.push(stream));
        expect(pieces.tooLong).toBe(whole.tooLong);
      }),
    );
  });
});

describe('a filter (public description of server-side filter commands)', () => {
  const parts: FilterPart[] = [
    { kind: 'range', latitudeDeg: -29.6, longitudeDeg: -11.4, km: 50 },
    { kind: 'around me', km: 20 },
    { kind: 'begins with', texts: ['QH', '1X9'] },
    { kind: 'calls', texts: ['QH4MPK*', 'QH7CTA-9'] },
    { kind: 'kinds', letters: 'pomw' },
    { kind: 'area', northDeg: -29, westDeg: -12, southDeg: -30, eastDeg: -11 },
  ];
  const text = 'r/-29.6/-11.4/50 m/20 p/QH/1X9 b/QH4MPK*/QH7CTA-9 t/pomw a/-29/-12/-30/-11';

  it('is written and read', () => {
    expect(formatFilter(parts)).toBe(text);
    expect(parseFilter(text)).toEqual(parts);
    expect(parseFilter('')).toEqual([]);
    expect(formatFilter([{ kind: 'range', latitudeDeg: -29.600049, longitudeDeg: 0, km: 49.6 }])).toBe(
      'r/-29.6/0/50',
    );
  });

  it.each([
    ['m/20 x/1', 5],
    ['r/91/0/5', 0],
    ['r/0/181/5', 0],
    ['r/0/0/0', 0],
    ['r/0/0', 0],
    ['r/0/0/1/1', 0],
    ['m/0', 0],
    ['m/5/5', 0],
    ['m/5e3', 0],
    ['p/', 0],
    ['b/TOOLONGNAME', 0],
    ['t/z', 0],
    ['t/', 0],
    ['t/p/m', 0],
    ['a/-30/-12/-29/-11', 0],
    ['a/-29/-12/-30', 0],
    ['a/-29/-12/-91/-11', 0],
  ])('%s is refused at %d', (typed, at) => expect(parseFilter(typed)).toMatchObject({ at }));

  it('never throws', () => fc.assert(fc.property(fc.string(), (typed) => void parseFilter(typed))));
});

// from: the public description of q constructs
describe('what a path on the internet side proves', () => {
  it.each([
    ['WIDE1-1,qAR,QH3PRT-10', 'yes', 'QH3PRT-10'],
    ['qAr,QH3PRT-10', 'yes', 'QH3PRT-10'],
    ['qAO,QH3PRT-10', 'perhaps', 'QH3PRT-10'],
    ['qAo,HOLLIN1', 'no', 'HOLLIN1'],
    ['TCPIP,qAC,HOLLIN1', 'no', 'HOLLIN1'],
    ['qAX,HOLLIN1', 'no', 'HOLLIN1'],
    ['TCPIP,qAR,QH3PRT-10', 'no', 'QH3PRT-10'],
    ['TCPXX,qAR,QH3PRT-10', 'no', 'QH3PRT-10'],
    ['qAR,QH4MPK-10', 'no', 'QH4MPK-10'],
    ['qAR,TCPIP', 'yes', 'TCPIP'],
    ['WIDE1-1', 'no', undefined],
  ])('%s: %s', (path, radio, by) => {
    const way = wayIn(path.split(','), 'QH4MPK');
    expect([way.radio, way.by]).toEqual([radio, by]);
  });

  it('another operator takes that gate for what it is', () => {
    expect(wayIn(['qAR', 'QH4MPK-10'], '').radio).toBe('yes');
    expect(wayIn(['qAR', 'QH4MPK-10'], 'QH4MPK').words).toContain('of your own');
  });

  it('in words for one station', () => {
    const of = (radio: 'yes' | 'perhaps' | 'no', by: string) => ({ radio, by, words: '' });
    const many = (count: number, one: ReturnType<typeof of>) => Array.from({ length: count }, () => one);
    expect(waysInWords([...many(7, of('yes', 'QH3PRT-10')), ...many(33, of('no', 'HOLLIN1'))])).toBe(
      '7 of 40 by radio, all through QH3PRT-10; 33 by the internet alone',
    );
    expect(waysInWords([of('yes', 'A'), of('yes', 'B'), of('perhaps', 'C')])).toBe(
      '2 of 3 by radio, through A, B; 1 perhaps, by receive-only gates',
    );
    expect(waysInWords([of('yes', 'A'), of('no', 'C')])).toBe(
      '1 of 2 by radio, through A; 1 by the internet alone',
    );
    expect(waysInWords([of('no', 'C')])).toBe('0 of 1 by radio; 1 by the internet alone');
    expect(waysInWords([])).toBe('nothing was seen of it on the internet side');
  });

  it('the spacing of dots hints at a way, where it fits one alone', () => {
    const ways = [
      { name: 'the radio', everyMs: 120_000 },
      { name: 'the phone', everyMs: 30_000 },
      { name: 'the tablet', everyMs: 33_000 },
    ];
    const every = (ms: number, count = 5) => Array.from({ length: count }, (_, i) => i * ms);
    expect(likelyWay(every(130_000), ways)).toBe('the radio');
    expect(likelyWay(every(144_000), ways)).toBe('the radio');
    expect(likelyWay(every(144_001), ways)).toBeUndefined();
    expect(likelyWay(every(25_000), ways)).toBe('the phone');
    expect(likelyWay(every(31_000), ways)).toBeUndefined();
    expect(likelyWay(every(120_000, 4), ways)).toBeUndefined();
    expect(likelyWay([0, 120_000, 240_000, 900_000, 1_020_000], ways)).toBe('the radio');
  });
});

it('a duplicate within half a minute is none the second time, by whichever path', () => {
  const seen = new SeenLately();
  const packet = packetOf('QH7CTA-9>APRS,qAR,QH3PRT-10:>hi');
  expect(seen.isNew(packet, 0)).toBe(true);
  expect(seen.isNew(packetOf('QH7CTA-9>APRS,WIDE1*,qAO,QH1ANR:>hi'), SEEN_MS - 1)).toBe(false);
  expect(seen.isNew(packetOf('QH7CTA-9>APRS,qAR,QH3PRT-10:>ho'), 1)).toBe(true);
  expect(seen.isNew(packetOf('QH7CTA-9>APZZZ,qAR,QH3PRT-10:>hi'), 1)).toBe(true);
  expect(seen.isNew(packet, SEEN_MS)).toBe(true);
});

describe('a gate', () => {
  const GATE = 'QH4MPK-10';
  const heard = (path: string, info: string, source = 'QH7CTA-9') => {
    const hops = parsePath(path.replaceAll('*', ''));
    if (isMalformed(hops)) throw new Error(hops.malformed);
    const used = path.split(',').findLastIndex((entry) => entry.endsWith('*'));
    return uiFrame(
      source,
      'APZMPK',
      hops.map((hop, i) => ({ ...hop, used: i <= used })),
      fromLatin1(info),
    );
  };

  // from: the public description of gates: what is never passed to the internet, and what is unwrapped
  it.each([
    ['WIDE1-1,WIDE2-1', '>hi', 'QH7CTA-9>APZMPK,WIDE1-1,WIDE2-1,qAR,QH4MPK-10:>hi'],
    ['QH1ANR*,WIDE2-1', '>hi', 'QH7CTA-9>APZMPK,QH1ANR*,WIDE2-1,qAR,QH4MPK-10:>hi'],
    ['', '>hi\r\nmore', 'QH7CTA-9>APZMPK,qAR,QH4MPK-10:>hi'],
    ['', '}QH8CLA-7>APRS,WIDE1*:>in', 'QH8CLA-7>APRS,WIDE1*,qAR,QH4MPK-10:>in'],
    ['TCPIP*', '>hi', 'it came from the internet (TCPIP)'],
    ['TCPXX*', '>hi', 'it came from the internet, unverified (TCPXX)'],
    ['NOGATE', '>hi', 'its sender does not want it (NOGATE)'],
    ['WIDE1-1,RFONLY', '>hi', 'its sender does not want it (RFONLY)'],
    ['', '}QH8CLA-7>APRS,TCPIP,QH3PRT-10*:>in', 'it came from the internet (TCPIP)'],
    ['', '}QH8CLA-7>APRS,NOGATE:>in', 'its sender does not want it (NOGATE)'],
    ['', '}no packet', 'no APRS packet'],
    ['', '}QH8CLA-7>APRS:?APRS?', 'a query to all'],
    ['', '?APRS?', 'a query to all'],
  ])('to the internet: %s %s', (path, info, what) => {
    const gated = gateIn(heard(path, info), { gate: GATE, isBothWays: true });
    expect('line' in gated ? gated.line : gated.refused).toBe(what);
  });

  it('says by its construct whether it works both ways; passes neither itself nor what is too long', () => {
    const gated = gateIn(heard('', '>hi'), { gate: GATE, isBothWays: false });
    expect(gated).toMatchObject({ line: 'QH7CTA-9>APZMPK,qAO,QH4MPK-10:>hi' });
    expect(gateIn(heard('', '>hi', GATE), { gate: GATE, isBothWays: true })).toEqual({ refused: 'our own' });
    const of = (length: number) =>
      gateIn(heard('', `>${'x'.repeat(length)}`), { gate: GATE, isBothWays: true });
    const header = 'QH7CTA-9>APZMPK,qAR,QH4MPK-10:>'.length;
    expect(of(LONGEST_LINE - 2 - header)).toHaveProperty('line');
    expect(of(LONGEST_LINE - 1 - header)).toEqual({ refused: 'too long' });
    expect(gateIn({ ...heard('', '>hi'), pid: 0xcf }, { gate: GATE, isBothWays: true })).toEqual({
      refused: 'no APRS packet',
    });
  });

  // from: the public description of gates: when a message is put on the air
  const near: HeardOf = { radioAgeMs: 60_000, radioHops: 1 };
  const out = (
    line: string,
    addressee: string | undefined,
    stations: Record<string, HeardOf>,
    isPosition = false,
  ): string => {
    const result = gateOut(packetOf(line), {
      gate: GATE,
      addressee,
      isPosition,
      of: (call) => stations[call] ?? {},
    });
    return 'info' in result ? result.info : result.refused;
  };
  const message = 'QH9FAR>APRS,TCPIP*,qAC,HOLLIN1::QH7CTA-9 :come home{1';

  it.each<[string, string, Record<string, HeardOf>]>([
    ['}QH9FAR>APRS,TCPIP,QH4MPK-10*::QH7CTA-9 :come home{1', message, { 'QH7CTA-9': near }],
    ['its addressee was not heard on radio lately', message, {}],
    [
      'its addressee was not heard on radio lately',
      message,
      { 'QH7CTA-9': { ...near, radioAgeMs: USUAL_OUT_RULES.latelyMs + 1 } },
    ],
    ['its addressee is too far away', message, { 'QH7CTA-9': { ...near, radioHops: 3 } }],
    ['its addressee was heard by the internet', message, { 'QH7CTA-9': { ...near, internetAgeMs: 5000 } }],
    ['its sender was heard on radio', message, { 'QH7CTA-9': near, QH9FAR: { radioAgeMs: 5000 } }],
    ['its sender is unverified (TCPXX)', message.replace('TCPIP', 'TCPXX'), { 'QH7CTA-9': near }],
    ['its sender is unverified (TCPXX)', message.replace('qAC', 'qAX'), { 'QH7CTA-9': near }],
    ['its sender does not want it (NOGATE)', message.replace('TCPIP*', 'NOGATE'), { 'QH7CTA-9': near }],
    ['its sender does not want it (RFONLY)', message.replace('TCPIP*', 'RFONLY'), { 'QH7CTA-9': near }],
    ['it does not fit', message.replace('home', 'x'.repeat(220)), { 'QH7CTA-9': near }],
  ])('to radio: %s', (what, line, stations) => expect(out(line, 'QH7CTA-9', stations)).toBe(what));

  it('at the bounds; no message; and the position that follows one, though its sender was heard', () => {
    const edge = {
      radioAgeMs: USUAL_OUT_RULES.latelyMs,
      radioHops: 2,
      internetAgeMs: USUAL_OUT_RULES.latelyMs + 1,
    };
    expect(out(message, 'QH7CTA-9', { 'QH7CTA-9': edge })).toContain('}QH9FAR');
    expect(out(message, undefined, {})).toBe('no message to a station');
    const stations = { 'QH7CTA-9': near, QH9FAR: { radioAgeMs: 5000 } };
    expect(out('QH9FAR>APRS,TCPIP*,qAC,HOLLIN1:!2937.92S/01124.30W-', 'QH7CTA-9', stations, true)).toContain(
      '}QH9FAR>APRS,TCPIP,QH4MPK-10*:!2937',
    );
  });

  it('what it passes in can be read again, whatever was heard', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (octets) => {
        const gated = gateIn({ ...heard('QH1ANR*', ''), info: octets }, { gate: GATE, isBothWays: true });
        if ('refused' in gated) return;
        const packet = packetOf(gated.line);
        expect(isMalformed(packet)).toBe(false);
        expect(toLatin1(packet.info)).toBe(toLatin1(gated.packet.info));
        expect(gated.line.length).toBeLessThanOrEqual(LONGEST_LINE - 2);
      }),
    );
  });
});
