import { opening } from './app-abilities';

describe('what an app opens', () => {
  const before = [
    { signal: 'KISS', over: ['TCP'] },
    { signal: 'audio', over: ['sound'] },
  ] as const;

  it('is one entry for each kind of thing', () => {
    expect(opening(before, { signal: 'KISS', over: ['TCP', 'Bluetooth LE'] })).toEqual([
      { signal: 'audio', over: ['sound'] },
      { signal: 'KISS', over: ['TCP', 'Bluetooth LE'] },
    ]);
    expect(opening(before, { signal: 'text', over: ['USB'] })).toHaveLength(3);
  });

  it('is gone where it goes by no way', () => {
    expect(opening(before, { signal: 'audio', over: [] })).toEqual([{ signal: 'KISS', over: ['TCP'] }]);
  });
});
