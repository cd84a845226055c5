import { isAlike, readKept, writeKept } from './draft';

const kept = new Map<string, string>();
let isFull = false;

beforeAll(() => {
  Object.defineProperty(globalThis, 'localStorage', {
    configurable: true,
    value: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => {
        if (isFull) throw new DOMException('full', 'QuotaExceededError');
        kept.set(key, value);
      },
      removeItem: (key: string) => kept.delete(key),
    },
  });
});
beforeEach(() => {
  kept.clear();
  isFull = false;
});

const DRAFT = { begunFrom: { name: 'a' }, values: { name: 'b' } };

describe('a draft', () => {
  it('is there until it is dropped, each under its own name', () => {
    writeKept('item 1', DRAFT);
    expect(readKept('item 1')).toEqual(DRAFT);
    expect(readKept('item 2')).toBeUndefined();
    writeKept('item 1', undefined);
    expect(readKept('item 1')).toBeUndefined();
    expect(kept.size).toBe(0);
  });

  it('that cannot be kept or read is none', () => {
    isFull = true;
    writeKept('item 1', DRAFT);
    expect(readKept('item 1')).toBeUndefined();
    kept.set('draft item 1', '{not JSON');
    expect(readKept('item 1')).toBeUndefined();
  });
});

it.each([
  [{ a: 1, b: [1, { c: 2, d: 3 }] }, { b: [1, { d: 3, c: 2 }], a: 1 }, true],
  [{ a: 1, b: undefined }, { a: 1 }, true],
  [{ a: 1, b: null }, { a: 1 }, true],
  [{ a: 1 }, { a: '1' }, false],
  [[1, 2], [2, 1], false],
  [null, {}, false],
])('%j and %j alike: %s', (one, other, is) => {
  expect(isAlike(one, other)).toBe(is);
});
