import { symbolName } from '@mistpeak/core/aprs/symbols';
import { DRAWING_BOX, drawingOf } from './symbol-drawings';

const ALL = Array.from({ length: 94 }, (_, i) => String.fromCharCode(33 + i)).flatMap((code) =>
  ['/', '\\'].map((table) => symbolName({ table, code })),
);

describe('our own drawings of the symbols', () => {
  it('cover the symbols that stations choose most, and most of all', () => {
    for (const text of [
      '/-',
      '/>',
      '/[',
      '/#',
      '/&',
      '/_',
      '/k',
      '/Y',
      '/O',
      '/r',
      '/b',
      '/j',
      '\\n',
      '\\R',
      '/;',
    ])
      expect([text, drawingOf(symbolName({ table: text.charAt(0), code: text.charAt(1) }))]).toEqual([
        text,
        expect.any(String),
      ]);
    const named = ALL.filter((name) => !name.startsWith('symbol ') && !name.startsWith('number '));
    expect(named.filter((name) => drawingOf(name)).length / named.length).toBeGreaterThan(0.8);
  });

  it('begin inside their box, and are paths', () => {
    for (const name of ALL) {
      const path = drawingOf(name);
      if (path === undefined) continue;
      expect(path).toMatch(/^M[-\d. MmLlHhVvCcSsAaZz]+$/);
      for (const [, x, y] of path.matchAll(/M(-?[\d.]+) (-?[\d.]+)/g)) {
        expect(Number(x)).toBeGreaterThanOrEqual(0);
        expect(Number(x)).toBeLessThanOrEqual(DRAWING_BOX);
        expect(Number(y)).toBeGreaterThanOrEqual(0);
        expect(Number(y)).toBeLessThanOrEqual(DRAWING_BOX);
      }
    }
  });
});
