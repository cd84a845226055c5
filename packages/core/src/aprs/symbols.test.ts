import { COMMON_SYMBOLS, symbolName, symbolOverlay } from './symbols.js';

describe('the symbol tables', () => {
  // 1.0.1, appendix "The APRS symbol tables" (from memory).
  it.each([
    ['/-', 'house'],
    ['/>', 'car'],
    ['/_', 'weather station'],
    ['\\-', 'house, high-frequency station'],
    ['I&', 'gateway'],
    ['1#', 'digipeater'],
    ['D#', 'digipeater'],
    ['\\!', 'emergency'],
    ['/{', 'symbol /{'],
    ['\\q', 'symbol \\q'],
  ])('%s is a %s', (text, name) =>
    expect(symbolName({ table: text.charAt(0), code: text.charAt(1) })).toBe(name),
  );

  it('an overlay is told, a table is none', () => {
    expect(['I&', '/&', '\\&'].map((text) => symbolOverlay({ table: text.charAt(0), code: '&' }))).toEqual([
      'I',
      undefined,
      undefined,
    ]);
  });

  it('the common ones have a name each', () =>
    expect(COMMON_SYMBOLS.every(({ name }) => name && !name.startsWith('symbol'))).toBe(true));
});
