import fc from 'fast-check';
import { uiFrame, type Ax25Frame } from '../ax25/frame.js';
import { formatMonitorText, parseMonitorText } from '../ax25/monitor-text.js';
import { isMalformed } from '../bits/malformed.js';
import { fromLatin1 } from '../bits/octets.js';
import { hopsAsked, parsePath } from './alias.js';
import { step, type DigipeaterRules, type DigipeaterState } from './digipeater.js';
import { explainPath } from './explain.js';

const wide = (call: string): DigipeaterRules => ({ call, role: 'wide', duplicateWindowMs: 30_000 });
const fillIn = (call: string): DigipeaterRules => ({ call, role: 'fill-in', duplicateWindowMs: 30_000 });

/** The path as a digipeater leaves it, or nothing. */
function repeat(path: string, rules: DigipeaterRules): string | undefined {
  const frame = parseMonitorText(`S>D,${path}:x`) as Ax25Frame;
  const [, repeated] = step(new Map(), frame, 0, rules);
  return repeated && formatMonitorText(repeated).slice('S>D,'.length, -2);
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

  it('repeats a copy only once within its window, whatever its path', () => {
    const first = parseMonitorText('S>D,WIDE2-2:x') as Ax25Frame;
    const copy = parseMonitorText('S>D,D9*,WIDE2-1:x') as Ax25Frame;
    let state: DigipeaterState = new Map();
    const hear = (frame: Ax25Frame, atMs: number): boolean => {
      const [next, repeated] = step(state, frame, atMs, wide('D1'));
      state = next;
      return repeated !== undefined;
    };
    expect([hear(first, 0), hear(copy, 2000), hear(first, 29_999), hear(first, 30_000)]).toEqual([
      true,
      false,
      false,
      true,
    ]);
  });

  it('never repeats its own frames', () => {
    const own = parseMonitorText('D1>D,WIDE2-2:x') as Ax25Frame;
    expect(step(new Map(), own, 0, wide('D1'))[1]).toBeUndefined();
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
          const [, next] = step(new Map(), frame, 0, wide(`D${hops % 9}`));
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
  ])('"%s" asks for %i hops', (text, hops) => {
    const path = parsePath(text);
    expect(isMalformed(path) ? path : hopsAsked(path)).toBe(hops);
  });

  it.each([
    ['RELAY,WIDE2-1', /obsolete/],
    ['WIDE2-1,WIDE1-1', /belongs first/],
    ['WIDE1-2', /more hops than its class/],
    ['WIDE2', /asks for no hop/],
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
  ])('%s', (path, hops, summary) => {
    const frame = parseMonitorText(`S>D,${path}:x`) as Ax25Frame;
    expect(explainPath(frame.path)).toMatchObject({ hops, summary });
  });

  it('says what each entry means', () => {
    const { path } = parseMonitorText('S>D,QH1ANR,WIDE1*,WIDE2-1,RELAY,TCPIP:x') as Ax25Frame;
    expect(explainPath(path).entries.map(({ meaning }) => meaning)).toEqual([
      'repeated it',
      'used up by QH1ANR',
      '1 of 2 hops left',
      'an obsolete alias: hardly anyone serves it',
      'tells of the internet, not of a repeater',
    ]);
  });

  it('of nobody asked says so', () =>
    expect(explainPath([]).summary).toBe('Heard direct. It asked for no repeat.'));
});
