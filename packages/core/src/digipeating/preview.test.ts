import { uiFrame } from '../ax25/frame.js';
import { fromLatin1 } from '../bits/octets.js';
import { previewInWords, previewRepeats } from './preview.js';

const RULES = { call: 'QH4MPK-1', role: 'fill-in', duplicateWindowMs: 30_000, viscousMs: 5000 } as const;
const heard = (atMs: number, source: string, path: string, info = 'x') => ({
  atMs,
  frame: uiFrame(
    source,
    'APZMPK',
    path === ''
      ? []
      : path.split(',').map((entry) => ({ call: entry.replace('*', ''), used: entry.endsWith('*') })),
    fromLatin1(info),
  ),
});

describe('what a fill-in would have repeated', () => {
  it('counts packets, not copies, and those that others repeated too', () => {
    const preview = previewRepeats(
      [
        heard(0, 'QH7CTA-9', 'WIDE1-1,WIDE2-1'),
        heard(900, 'QH7CTA-9', 'QH1ANR*,WIDE1*,WIDE2-1'),
        heard(1000, 'QH8CLA-7', 'WIDE1-1'),
        heard(2000, 'QH8CLA-7', 'WIDE1-1'),
        heard(3000, 'QH6WXA-13', 'WIDE2-1'),
        heard(4000, 'QH4MPK-1', 'WIDE1-1'),
        // The same text a while later is another packet, at the window's end exactly.
        heard(32_000, 'QH8CLA-7', 'WIDE1-1'),
        heard(33_000, 'QH8BTA-8', 'QH1ANR*,WIDE1-1'),
      ],
      RULES,
    );
    expect(preview).toEqual({
      heard: 5,
      wouldRepeat: 3,
      othersToo: 1,
      gained: [{ call: 'QH8CLA-7', count: 2 }],
    });
  });

  it('a copy of another digipeater that came before counts too', () =>
    expect(
      previewRepeats([heard(0, 'QH7CTA-9', 'QH1ANR*,WIDE1*'), heard(500, 'QH7CTA-9', 'WIDE1-1')], RULES),
    ).toMatchObject({ heard: 1, wouldRepeat: 1, othersToo: 1, gained: [] }));

  it('in words', () => {
    const words = (all: number, would: number, others: number) =>
      previewInWords({ heard: all, wouldRepeat: would, othersToo: others, gained: [] });
    expect(words(203, 14, 12)).toBe(
      'in the last hour it would have repeated 14 of 203; 12 of them others repeated too: little gain',
    );
    expect(words(203, 14, 14)).toContain('no gain');
    expect(words(20, 14, 12)).toContain(': a gain');
    expect(words(0, 0, 0)).toContain('nothing was heard');
  });
});
