import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { parseMonitorText } from '../ax25/monitor-text.js';
import { fromLatin1 } from '../bits/octets.js';
import { heardFacts, voiceInstead, type HeardPiece } from './facts.js';

const MINUTE = 60_000;
const START = 1_000_000;
const octets = encodeFrame(parseMonitorText('QH7CTA-9>APZMPK,QH1TOP*,WIDE2-1:>x') as Ax25Frame);
const frame = (atMs: number, line?: string): HeardPiece => ({
  atMs,
  octets: line === undefined ? octets : encodeFrame(parseMonitorText(line) as Ax25Frame),
});
const scrap = (atMs: number, trouble: string): HeardPiece => ({ atMs, octets: Uint8Array.of(1), trouble });
const every = (gapMs: number, count: number): HeardPiece[] =>
  Array.from({ length: count }, (_, i) => frame(START + i * gapMs));

describe('what a link tells of itself', () => {
  it('when nothing has come', () => {
    expect(heardFacts([], START, START + MINUTE)).toEqual({
      sinceOpenMs: MINUTE,
      decoded: 0,
      broken: 0,
      brokenPerMinute: 0,
      silentMs: MINUTE,
      heardDigipeaters: [],
    });
    // Clocks of two machines differ.
    expect(heardFacts([frame(START + 50)], START, START - 100)).toMatchObject({
      sinceOpenMs: 0,
      silentMs: 0,
    });
  });

  it('counts what came since it was opened: frames, also those that are no APRS, and broken ones', () => {
    const heard = [
      frame(START - 1),
      frame(START),
      scrap(START + 1, 'not APRS'),
      ...[
        'bad escape',
        'cut off',
        'too long',
        'not AX.25',
        'unknown command',
        'unexpected command',
        'bad parameter',
      ].map((trouble, i) => scrap(START + 10 + i, trouble)),
      scrap(START + 30, 'outside a frame'),
    ];
    expect(heardFacts(heard, START, START + 2 * MINUTE)).toMatchObject({
      decoded: 2,
      broken: 7,
      brokenPerMinute: 3.5,
      silentMs: 2 * MINUTE - 1,
    });
    // In the first minute seven are seven a minute, not seventy.
    expect(heardFacts(heard, START, START + MINUTE / 10).brokenPerMinute).toBe(7);
  });

  it.each([
    ['of ten gaps, also from before the opening', every(8000, 11), 8000],
    ['of nine gaps nothing', every(8000, 10), undefined],
    ['of copies of one packet nothing', every(4999, 30), undefined],
    ['of five seconds', every(5000, 11), 5000],
    ['of ten minutes', every(10 * MINUTE, 11), 10 * MINUTE],
    ['of longer pauses nothing', every(10 * MINUTE + 1, 30), undefined],
    ['the mean', [...every(6000, 11), frame(START + 60_000 + 17_000)], 7000],
  ])('knows what gap is usual: %s', (_, heard, usualGapMs) => {
    const facts = heardFacts(heard, START + 20 * MINUTE, START + 21 * MINUTE);
    expect(facts.usualGapMs).toBe(usualGapMs);
  });

  it('names who repeated what came, each once, and nobody for what came direct or cannot be read', () => {
    const heard = [
      frame(START),
      frame(START + 1),
      frame(START + 2, 'QH7CTA-9>APZMPK,QH1TOP*,QH1ANR*,WIDE2*:>x'),
      frame(START + 3, 'QH7CTB-9>APZMPK,WIDE1-1:>x'),
      { atMs: START + 4, octets: Uint8Array.of(1, 2, 3) },
    ];
    expect(heardFacts(heard, START, START + 5).heardDigipeaters).toEqual(['QH1TOP', 'QH1ANR']);
  });
});

describe('what speaks instead of KISS', () => {
  const line = (text: string): HeardPiece => ({
    atMs: START,
    octets: fromLatin1(text),
    trouble: 'outside a frame',
  });
  const SENTENCE = '$GPGGA,102705,5157.9762,N,00029.3256,W,1,04,2.0,75.7,M,47.6,M,,*62';

  it.each([
    ['nothing where nothing came', [], undefined],
    ['one sentence tells', [line(SENTENCE)], 'position sentences'],
    ['a prompt tells', [line('cmd:')], 'command prompt'],
    ['two lines of something do not', [line('abc'), line('def')], undefined],
    ['nothing once a frame came behind them', [line(SENTENCE), frame(START)], undefined],
    ['lines behind a frame', [frame(START), line(SENTENCE)], 'position sentences'],
  ] as [string, HeardPiece[], string | undefined][])('%s', (_, heard, voice) => {
    expect(voiceInstead(heard)?.voice).toBe(voice);
  });

  it('three lines of something do, and only the last eight are looked at', () => {
    expect(voiceInstead([line('abc'), line('def'), line('ghi')])).toBeDefined();
    const older = [line(SENTENCE), ...Array.from({ length: 8 }, () => line('hello there'))];
    expect(voiceInstead(older)?.voice).not.toBe('position sentences');
    expect(heardFacts(older, START, START + 1).text).toEqual(voiceInstead(older));
  });
});
