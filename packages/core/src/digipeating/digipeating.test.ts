import fc from 'fast-check';
import { decodeFrame, encodeFrame, uiFrame, type Ax25Frame } from '../ax25/frame.js';
import { formatMonitorText, parseMonitorText } from '../ax25/monitor-text.js';
import { isMalformed } from '../bits/malformed.js';
import { fromLatin1 } from '../bits/octets.js';
import { hopsAsked, parsePath } from './alias.js';
import { duplicateKey, IDLE_DIGIPEATER, repeatByName, step, type DigipeaterEvent } from './digipeater.js';
import { explainPath } from './explain.js';
import { readInternetWay } from './internet-way.js';
import { serve, type DigipeaterRules } from './service.js';

const wide = (call: string): DigipeaterRules => ({ call, role: 'wide', duplicateWindowMs: 30_000 });
const fillIn = (call: string): DigipeaterRules => ({ call, role: 'fill-in', duplicateWindowMs: 30_000 });

const heard = (line: string): DigipeaterEvent => ({
  kind: 'heard',
  frame: parseMonitorText(line) as Ax25Frame,
});

/** What it repeats of one frame, at rest. */
function repeated(frame: Ax25Frame, rules: DigipeaterRules): Ax25Frame | undefined {
  const [effect] = step(IDLE_DIGIPEATER, { kind: 'heard', frame }, { atMs: 0, rules })[1];
  return effect?.kind === 'repeat' ? effect.frame : undefined;
}

/** The path as a digipeater leaves it, or nothing. */
function repeat(path: string, rules: DigipeaterRules): string | undefined {
  const frame = repeated(parseMonitorText(`S>D,${path}:x`) as Ax25Frame, rules);
  return frame && formatMonitorText(frame).slice('S>D,'.length, -2);
}

// from: the published "New n-N paradigm"; `*` marks the last used hop
describe('a digipeater', () => {
  it.each([
    ['WIDE2-2', wide('D1'), 'D1*,WIDE2-1'],
    ['D1*,WIDE2-1', wide('D2'), 'D1,D2,WIDE2*'],
    ['WIDE1-1,WIDE2-1', wide('D1'), 'D1,WIDE1*,WIDE2-1'],
    ['WIDE1-1,WIDE2-1', fillIn('F1'), 'F1*,WIDE2-1'],
    ['F1*,WIDE2-1', fillIn('F2'), undefined],
    ['WIDE2-1', fillIn('F1'), undefined],
    ['D1,WIDE2-1', wide('D1'), 'D1*,WIDE2-1'],
    ['D1,WIDE2-1', wide('D2'), undefined],
    ['WIDE2*', wide('D1'), undefined],
    ['WIDE1-3', wide('D1'), undefined],
    ['RELAY', wide('D1'), undefined],
    // nothing is inserted where the path has 8 entries
    ['A,B,C,D,E,F,G*,WIDE3-2', wide('D1'), 'A,B,C,D,E,F,G*,WIDE3-1'],
  ])('leaves %s as %#', (path, rules, expected) => expect(repeat(path, rules)).toBe(expected));

  /** How many are repeated of each event, one after another, at these times. */
  function run(rules: DigipeaterRules, ...events: readonly [number, DigipeaterEvent][]): number[] {
    let state = IDLE_DIGIPEATER;
    return events.map(([atMs, event]) => {
      const [next, effects] = step(state, event, { atMs, rules });
      state = next;
      return effects.filter(({ kind }) => kind === 'repeat').length;
    });
  }

  it('repeats a copy only once within its window, whatever its path', () => {
    const [first, copy] = [heard('S>D,WIDE2-2:x'), heard('S>D,D9*,WIDE2-1:x')];
    expect(run(wide('D1'), [0, first], [2000, copy], [29_999, first], [30_000, first])).toEqual([1, 0, 0, 1]);
    // Long after its start too.
    const late = 3_600_000;
    expect(run(wide('D1'), [late, first], [late + 2000, copy], [late + 30_000, first])).toEqual([1, 0, 1]);
  });

  it('remembers no copies longer than its window', () => {
    let state = IDLE_DIGIPEATER;
    for (let i = 0; i < 100; i++) {
      const event = heard(`S>D,WIDE2-2:${i}`);
      state = step(state, event, { atMs: i * 1000, rules: wide('D1') })[0];
    }
    // Those of the last 30 s, the present one among them.
    expect(state.repeated.size).toBe(30);
  });

  it('never repeats its own frames', () =>
    expect(run(wide('D1'), [0, heard('D1>D,WIDE2-2:x')])).toEqual([0]));

  it('leaves its own call further on alone, unless it is told to serve it early', () => {
    const path = 'D9,WIDE2-2,D1,D3';
    expect(repeat(path, wide('D1'))).toBeUndefined();
    expect(repeat(path, { ...wide('D1'), preemptive: true })).toBe('D9,WIDE2-2,D1*,D3');
  });

  it('viscous: holds back, and repeats only what nobody else repeated', () => {
    const viscous = { ...wide('D1'), viscousMs: 5000 };
    const [first, copy] = [heard('S>D,WIDE2-2:x'), heard('S>D,D9*,WIDE2-1:x')];
    const rings: DigipeaterEvent = {
      kind: 'timer',
      timer: duplicateKey(parseMonitorText('S>D:x') as Ax25Frame),
    };
    expect(run(viscous, [0, first], [5000, rings], [6000, copy])).toEqual([0, 1, 0]);
    expect(run(viscous, [0, first], [1000, copy], [5000, rings])).toEqual([0, 0, 0]);
  });

  it('sets the H bit of its own call in a frame of any kind, and leaves all other octets', () => {
    const octets = encodeFrame(parseMonitorText('S>D,D1,D2:x') as Ax25Frame);
    const once = repeatByName(octets, 'D1') as Uint8Array;
    expect([...once].map((octet, i) => octet ^ (octets[i] as number)).filter(Boolean)).toEqual([0x80]);
    expect(repeatByName(octets, 'D2')).toBeUndefined();
    expect(formatMonitorText(decodeFrame(repeatByName(once, 'D2') as Uint8Array) as Ax25Frame)).toBe(
      'S>D,D1,D2*:x',
    );
    expect(repeatByName(octets.subarray(0, 9), 'D1')).toBeUndefined();
  });

  it('never lengthens a path beyond eight, and every chain of repeats ends', () => {
    const entry = fc.constantFrom('WIDE1-1', 'WIDE2-2', 'WIDE3-3', 'WIDE7-7', 'D1', 'X');
    fc.assert(
      fc.property(fc.array(entry, { minLength: 1, maxLength: 8 }), (calls) => {
        let frame = uiFrame(
          'S',
          'D',
          calls.map((call) => ({ call, used: false })),
          fromLatin1('x'),
        );
        for (let hops = 0; ; hops++) {
          const next = repeated(frame, wide(`D${hops % 9}`));
          if (!next) break;
          expect(next.path.length).toBeLessThanOrEqual(8);
          expect(hops).toBeLessThan(60);
          frame = next;
        }
      }),
    );
  });
});

describe('a path that an operator types', () => {
  it.each([
    ['', 0],
    ['WIDE1-1,WIDE2-1', 2],
    ['wide2-2', 2],
    ['QH1ANR,WIDE2-1', 2],
    ['GA2-2', 2],
    ['A,B,C,D,E,F,G,H', 8],
    ['WIDE1-1,RFONLY,NOGATE', 1],
  ])('"%s" asks for %i hops', (text, hops) => {
    const path = parsePath(text);
    expect(isMalformed(path) ? path : hopsAsked(path)).toBe(hops);
  });

  it.each([
    ['RELAY,WIDE2-1', /obsolete/],
    ['WIDE2-1,WIDE1-1', /belongs first/],
    ['WIDE1-2', /more hops than its class/],
    ['WIDE2', /asks for no hop: write WIDE2-2/],
    ['GA2-3', /at most GA2-2/],
    ['WIDE2-1,', /entry 2: a call sign is missing/],
    ['A,B,C,D,E,F,G,H,I', /at most 8/],
  ])('"%s" is refused: %s', (text, words) =>
    expect(parsePath(text)).toMatchObject({ malformed: expect.stringMatching(words) }),
  );
});

describe('a received path in words', () => {
  it.each([
    ['WIDE1-1,WIDE2-1', 0, 'Heard direct. 2 hops are left.'],
    ['QH1ANR,WIDE1*,WIDE2-1', 1, 'Not heard direct: QH1ANR repeated it. One hop is left.'],
    ['QH1ANR,QH1TOP,WIDE2*', 2, 'Not heard direct: QH1ANR and then QH1TOP repeated it. No hop is left.'],
    ['WIDE2*', 1, 'Repeated at least once, by nobody who signed. No hop is left.'],
    ['WIDE1,WIDE2*', 2, 'Repeated at least 2 times, by nobody who signed. No hop is left.'],
    ['RELAY*,WIDE2-1', 1, 'Repeated at least once, by nobody who signed. One hop is left.'],
    [
      'WIDE1,QH1TOP,WIDE2*',
      2,
      'Not heard direct: QH1TOP repeated it, and one more without signing. No hop is left.',
    ],
    [
      'QH1ANR,WIDE1,WIDE2*',
      2,
      'Not heard direct: QH1ANR repeated it, and one more without signing. No hop is left.',
    ],
    ['NOGATE', 0, 'Heard direct. It asked for no repeat.'],
    ['WIDE1-1,RFONLY', 0, 'Heard direct. One hop is left.'],
    ['TCPIP', 0, 'Heard direct. It asked for no repeat.'],
    ['QH1ANR,WIDE1,NOGATE*', 1, 'Not heard direct: QH1ANR repeated it. No hop is left.'],
    ['GA2-2', 0, 'Heard direct. 2 hops are left.'],
    ['QH1ANR,GA2*', 1, 'Not heard direct: QH1ANR repeated it. No hop is left.'],
  ])('%s', (path, hops, summary) => {
    const frame = parseMonitorText(`S>D,${path}:x`) as Ax25Frame;
    expect(explainPath(frame.path)).toMatchObject({ hops, summary });
  });

  it('says what each entry means', () => {
    const { path } = parseMonitorText('S>D,QH1ANR,WIDE1*,WIDE2-1,RELAY,TCPIP:x') as Ax25Frame;
    expect(explainPath(path).entries.map(({ meaning }) => meaning)).toEqual([
      'repeated it',
      'used up by QH1ANR',
      '1 hop left',
      'an obsolete alias: hardly anyone serves it',
      'of the internet, and not used: it says nothing',
    ]);
  });

  it('of nobody asked says so', () =>
    expect(explainPath([]).summary).toBe('Heard direct. It asked for no repeat.'));

  it.each([
    ['S>D,QH1ANR*,WIDE2-1:x', 'repeated', 'QH1ANR repeated it. One hop is left.'],
    ['S>D,WIDE2-1:x', 'direct', 'Heard direct.'],
    ['S>D,TCPIP*:x', 'internet', 'It came out of the internet: no proof of radio.'],
    ['S>D,QH1ANR,TCPIP*:x', 'internet', 'Then QH1ANR repeated it.'],
    ['S>D,NOGATE*:x', 'direct', 'Heard direct.'],
    ['S>D,QH1ANR,RFONLY*:x', 'repeated', 'QH1ANR repeated it.'],
  ])('%s: %s', (line, origin, words) => {
    const { path } = parseMonitorText(line) as Ax25Frame;
    const explained = explainPath(path);
    expect(explained).toMatchObject({ origin, summary: expect.stringContaining(words) as string });
    // Heard direct and out of the internet exclude each other.
    expect(/[Hh]eard direct\./.test(explained.summary)).toBe(origin === 'direct');
  });

  it('of a packet in a packet is the gateway’s own', () => {
    const { path } = parseMonitorText('QH3PRT-10>APZMPK,QH1TOP*:x') as Ax25Frame;
    expect(explainPath(path, { source: 'QH5OST' })).toMatchObject({
      origin: 'internet',
      summary:
        'The gateway’s packet was repeated by QH1TOP. No hop is left. QH5OST itself was not heard: a gateway passed its packet on.',
    });
    expect(explainPath([], { source: 'QH5OST' }).summary).toMatch(/^The gateway was heard direct\. It asked/);
    expect(explainPath([{ call: 'WIDE2', used: true }], { source: 'QH5OST' }).summary).toMatch(
      /repeated at least once/,
    );
  });
});

// from: the published "New n-N paradigm"
describe('misuse', () => {
  it.each([
    ['RELAY,WIDE', [0, 1], 'RELAY is obsolete'],
    ['WIDE2-1,WIDE1-1', [1], 'WIDE1-1 stands behind another alias'],
    ['WIDE2-3', [0], 'WIDE2-3 asks for more hops than its class has'],
    ['WIDE2', [0], 'WIDE2 asks for no hop'],
    ['WIDE7-7', [0], 'it asks for 7 hops in all'],
    ['D1,D2,D3*,WIDE3-1', [3], 'it asks for 4 hops in all'],
    ['D1,WIDE1,D1*,WIDE2-1', [2], 'D1 repeated it twice'],
    ['D1,WIDE1*,D2,WIDE2-1', [], undefined],
    ['WIDE1-1,WIDE2-1', [], undefined],
    ['WIDE1-1,WIDE2-2', [], undefined],
    ['GA2-3', [0], 'GA2-3 asks for more hops than its class has'],
    ['GA2', [0], 'GA2 asks for no hop'],
    ['GA7-7', [0], 'it asks for 7 hops in all'],
    ['WIDE1,WIDE2*,WIDE2-2', [2], 'it asks for 4 hops in all'],
    ['WIDE1-1,NOGATE,RFONLY,TCPIP', [], undefined],
  ])('%s', (path, places, text) => {
    const frame = parseMonitorText(`S>D,${path}:x`) as Ax25Frame;
    const { misuse } = explainPath(frame.path);
    expect(misuse.map(({ at }) => at)).toEqual(places);
    expect(misuse[0]?.text).toBe(text);
    expect(misuse.every(({ rule }) => rule.length > 10)).toBe(true);
  });

  it('marks out of order', () => {
    const path = [
      { call: 'D1', used: false },
      { call: 'D2', used: true },
    ];
    expect(explainPath(path).misuse[0]?.rule).toBe('AX.25 v2.2: digipeaters act in order');
  });
});

// from: the public connection description of APRS-IS, "q constructs"
describe('the way into the internet', () => {
  it.each([
    ['qAR,QH3PRT-10', 'yes'],
    ['qAr,QH3PRT-10', 'yes'],
    ['qAO,QH3PRT-10', 'perhaps'],
    ['qAo,QH3PRT-10', 'no'],
    ['TCPIP*,qAC,T2', 'no'],
    ['WIDE2-1,qAZ', 'no'],
  ])('%s: radio %s', (path, radio) => expect(readInternetWay(path.split(','))).toMatchObject({ radio }));

  it('is not told on radio', () => expect(readInternetWay(['QH1ANR*', 'WIDE2-1'])).toBeUndefined());
  it('names who brought it in', () => expect(readInternetWay(['qAR', 'QH3PRT-10'])?.by).toBe('QH3PRT-10'));
});

describe('why a packet is let be', () => {
  const refusal = (path: string, rules = wide('QH1ANR'), source = 'S'): string | undefined => {
    const service = serve(parseMonitorText(`${source}>D${path}:x`) as Ax25Frame, rules);
    return 'refusal' in service ? service.refusal : undefined;
  };

  it.each([
    ['', 'no hop left'],
    [',QH1TOP*,WIDE2*', 'no hop left'],
    [',QH1TOP', 'another station named'],
    [',RELAY', 'not an alias served here'],
    [',WIDE2', 'not an alias served here'],
    [',QQ2-2', 'not an alias served here'],
    [',WIDE2-3', 'alias asks for too much'],
    [',WIDE2-2', undefined],
  ])('S>D%s: %s', (path, expected) => expect(refusal(path)).toBe(expected));

  it('by a fill-in, and by the source itself', () => {
    expect(refusal(',WIDE2-1', fillIn('QH2FIL-1'))).toBe('fill-in serves the first hop only');
    expect(refusal(',QH1TOP*,WIDE1-1', fillIn('QH2FIL-1'))).toBe('fill-in serves the first hop only');
    expect(refusal(',WIDE1-1', fillIn('QH2FIL-1'))).toBeUndefined();
    expect(refusal(',WIDE1-1', wide('QH1ANR'), 'QH1ANR')).toBe('own packet');
  });
});
