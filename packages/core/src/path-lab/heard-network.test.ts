import { parseMonitorText } from '../ax25/monitor-text.js';
import type { Ax25Frame, PathHop } from '../ax25/frame.js';
import { aliasesServed, askedPath } from './asked-path.js';
import { explainCopies } from './copies.js';
import { NetworkListener } from './heard-network.js';

const frame = (line: string): Ax25Frame => parseMonitorText(line) as Ax25Frame;
const path = (text: string): readonly PathHop[] => frame(`S>D${text === '' ? '' : `,${text}`}:x`).path;

describe('the path that was asked for', () => {
  it.each([
    ['', ''],
    ['WIDE1-1,WIDE2-1', 'WIDE1-1,WIDE2-1'],
    ['QH2FIL-1*,WIDE2-1', 'WIDE1-1,WIDE2-1'],
    ['QH2FIL-1,QH1ANR,WIDE2*', 'WIDE1-1,WIDE2-1'],
    ['QH1ANR,WIDE1,QH1TOP*,WIDE2-1', 'WIDE1-1,WIDE2-2'],
    ['QH1ANR,WIDE1*,WIDE2-1', 'WIDE1-1,WIDE2-1'],
    ['QH1ANR,WIDE1,QH1TOP,WIDE2*', 'WIDE1-1,WIDE2-1'],
    ['QH1ANR*,WIDE3-2', 'WIDE3-3'],
    ['QH1ANR,QH1TOP*,WIDE3-1', 'WIDE3-3'],
    ['WIDE2*', 'WIDE2-1'],
    ['QH1ANR,QH1TOP', 'QH1ANR,QH1TOP'],
    ['QH1ANR*,QH1TOP', 'WIDE1-1,QH1TOP'],
  ])('of %s was most likely %s', (heard, asked) => expect(askedPath(path(heard))).toBe(asked));

  it.each([
    ['QH1ANR,WIDE2*', ['QH1ANR WIDE2']],
    ['QH2FIL-1*,WIDE2-1', ['QH2FIL-1 WIDE1']],
    ['QH2FIL-1,QH1ANR,WIDE2*', ['QH2FIL-1 WIDE1', 'QH1ANR WIDE2']],
    ['QH2FIL-1*', ['QH2FIL-1 WIDE1']],
    ['QH1ANR,WIDE1,QH1TOP*,WIDE2-1', ['QH1ANR WIDE1', 'QH1TOP WIDE2']],
    ['QH1ANR,QH1TOP*', ['QH1ANR WIDE1', 'QH1TOP by name']],
    ['WIDE2-1', []],
  ])('in %s served: %j', (heard, served) =>
    expect(aliasesServed(path(heard)).map(({ call, alias }) => `${call} ${alias}`)).toEqual(served),
  );
});

describe('the network as it was heard', () => {
  const listener = new NetworkListener();
  const lines: [number, string][] = [
    [0, 'QH7CTA-9>APZMPK,WIDE1-1,WIDE2-1:!a'],
    [900, 'QH7CTA-9>APZMPK,QH2FIL-1*,WIDE2-1:!a'],
    [1800, 'QH7CTA-9>APZMPK,QH2FIL-1,QH1ANR,WIDE2*:!a'],
    [29_999, 'QH7CTA-9>APZMPK,QH1TOP,WIDE1*,WIDE2-1:!a'],
    [30_000, 'QH7CTA-9>APZMPK,QH1TOP,WIDE1*,WIDE2-1:!a'],
    [40_000, 'QH7CTB-9>APZMPK:!bbb'],
  ];
  lines.forEach(([atMs, line]) => listener.hear(frame(line), atMs));
  const network = listener.network();

  it('counts packets, not their copies, and those that came direct', () => {
    expect(network.sources).toEqual([
      { call: 'QH7CTA-9', packets: 2, direct: 1, lastAtMs: 30_000, octets: 2, path: 'WIDE1-1,WIDE2-1' },
      { call: 'QH7CTB-9', packets: 1, direct: 1, lastAtMs: 40_000, octets: 4, path: '' },
    ]);
    expect([network.fromMs, network.toMs]).toEqual([0, 40_000]);
  });

  it('tells who repeats whom, what each served, and whom we hear ourselves', () => {
    expect(network.repeaters.find(({ call }) => call === 'QH2FIL-1')).toMatchObject({
      count: 2,
      heardHere: 1,
      lastAtMs: 1800,
      from: { 'QH7CTA-9': 2 },
    });
    expect(network.repeaters.find(({ call }) => call === 'QH1ANR')).toMatchObject({
      count: 1,
      heardHere: 1,
      aliases: { WIDE2: 1 },
      from: { 'QH2FIL-1': 1 },
    });
    expect(network.repeaters.find(({ call }) => call === 'QH1TOP')?.aliases).toEqual({ WIDE1: 2 });
  });

  it('of nothing is empty', () =>
    expect(new NetworkListener().network()).toEqual({ fromMs: 0, toMs: 0, repeaters: [], sources: [] }));
});

describe('why did this one come twice?', () => {
  const explain = (...lines: [number, string][]) =>
    explainCopies(lines.map(([atMs, line]) => ({ atMs, frame: frame(line) })));

  it('since you hear the source and those who repeat it', () => {
    const { verdict, copies, remarks } = explain(
      [1000, 'QH7CTA-9>APZMPK,WIDE2-1:!a'],
      [1900, 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'],
    );
    expect(verdict).toMatch(/^It came 2 times, since you hear its source direct and QH1ANR:/);
    expect(copies.map(({ afterMs, hops }) => [afterMs, hops])).toEqual([
      [0, 0],
      [900, 1],
    ]);
    expect(copies[1]?.words).toBe('Not heard direct: QH1ANR repeated it. No hop is left.');
    expect(remarks).toEqual([]);
  });

  it('since one of them breaks the rule, is late, or was asked for too much', () => {
    const { remarks } = explain(
      [0, 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'],
      [5001, 'QH7CTA-9>APZMPK,QH1TOP,WIDE3*,WIDE3-3:!a'],
      [29_999, 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'],
    );
    expect(remarks[0]).toMatch(/^QH1ANR sent it twice within 30 s/);
    expect(remarks.slice(1, 3).map((text) => text.slice(0, 24))).toEqual([
      'QH1TOP sent it 5 s late:',
      'QH1ANR sent it 30 s late',
    ]);
    expect(remarks.at(-1)).toContain('hops in all');
  });

  it('again after the window is another matter', () => {
    const { remarks } = explain(
      [0, 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'],
      [30_000, 'QH7CTA-9>APZMPK,QH1ANR,WIDE2*:!a'],
    );
    expect(remarks.filter((text) => text.includes('twice'))).toEqual([]);
  });

  it('and once is once', () => expect(explain([0, 'A>B:x']).verdict).toBe('It came once.'));
  it('of nothing is a mistake', () => expect(() => explainCopies([])).toThrow(RangeError));
});
