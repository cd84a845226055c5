import { compare, comparisonWords, success, successOf } from './compare.js';
import { judgeSweep } from './sweep.js';

describe('how many are decoded', () => {
  it('has the bounds of Wilson', () => {
    // Wilson 1927: 8 of 10 lies between 0.490 and 0.943; 0 of 10 between 0 and 0.278 (published tables).
    const eight = success(8, 10);
    expect(eight.from).toBeCloseTo(0.49, 3);
    expect(eight.to).toBeCloseTo(0.943, 3);
    expect(success(0, 10)).toMatchObject({ from: 0 });
    expect(success(0, 10).to).toBeCloseTo(0.278, 3);
    expect(success(0, 0)).toMatchObject({ share: 0, from: 0, to: 1 });
    expect(successOf({ carriers: 10, unread: 2 })).toEqual(eight);
  });
});

describe('two ways compared', () => {
  it('the better one is told once it can be told', () => {
    expect(compare(success(18, 20), success(8, 20)).better).toBe('a');
    expect(compare(success(8, 20), success(18, 20)).better).toBe('b');
    // Two proportions, pooled: z = 0.1 / sqrt(0.25 · 2/n) reaches 1.96 between 192 and 193 each.
    expect(compare(success(55, 100), success(45, 100)).better).toBeUndefined();
    expect(compare(success(105.6, 192), success(86.4, 192)).better).toBeUndefined();
    expect(compare(success(106.15, 193), success(86.85, 193)).better).toBe('a');
  });

  it('too little is never told, however clear it looks', () => {
    expect(compare(success(4, 4), success(0, 4)).better).toBeUndefined();
    expect(compare(success(5, 5), success(0, 5)).better).toBe('a');
  });

  it('says how many more are needed', () => {
    // (1.96 + 0.84)² · (0.55·0.45 + 0.45·0.55) / 0.1² = 388.1.
    expect(compare(success(55, 100), success(45, 100)).needed).toBe(289);
    // The same for 0.58 and 0.42: 7.84 · 0.4872 / 0.16² = 149.2.
    expect(compare(success(29, 50), success(21, 50)).needed).toBe(100);
    expect(compare(success(3, 3), success(0, 3)).needed).toBe(5);
  });

  it('that all of a few were read on both sides says nothing yet', () => {
    // With 0.95 in place of 1: 7.84 · 0.095 / 0.1² = 74.5.
    expect(compare(success(7, 7), success(7, 7))).toMatchObject({ needed: 68 });
    expect(compare(success(74, 74), success(74, 74))).toMatchObject({ needed: 5 });
    expect(compare(success(75, 75), success(75, 75)).isSame).toBe(true);
    expect(compare(success(0, 75), success(0, 75)).isSame).toBe(true);
    expect(compare(success(75, 75), success(74, 74)).isSame).toBeUndefined();
  });

  it('a difference that somebody would notice is never called none', () => {
    // A little less than 0.1 apart and very many: the same; 0.1 apart and not yet told: more are needed.
    expect(compare(success(100, 200), success(82, 200))).toMatchObject({ needed: 186 });
    expect(compare(success(50, 100), success(40, 100))).not.toHaveProperty('isSame');
    expect(compare(success(200, 400), success(175, 400)).isSame).toBe(true);
  });

  it('speaks in words', () => {
    const names = { a: 'cable', b: 'speaker' };
    expect(comparisonWords(compare(success(18, 20), success(8, 20)), names)).toBe(
      'Cable is better: it decodes 90 % of the packets that it notices, speaker 40 %.',
    );
    expect(comparisonWords(compare(success(8, 20), success(18, 20)), names)).toMatch(
      /^Speaker is better.*cable 40 %/,
    );
    expect(comparisonWords(compare(success(55, 100), success(45, 100)), names)).toContain(
      'some 289 packets more',
    );
    expect(comparisonWords(compare(success(90, 100), success(90, 100)), names)).toContain('packets more');
    expect(comparisonWords(compare(success(180, 200), success(180, 200)), names)).toContain('No difference');
  });
});

describe('a sweep of the knob', () => {
  const step = (position: string, read: number, carriers = 10) => ({ position, read, carriers });

  it('recommends the middle of the good range', () => {
    const verdict = judgeSweep([step('1', 0), step('2', 9), step('3', 10), step('4', 9), step('5', 3)]);
    expect(verdict).toMatchObject({ best: '3', words: 'Leave the knob at 3: good from 2 to 4.' });
    expect(verdict.steps[1]?.success.share).toBe(0.9);
    expect(judgeSweep([step('1', 2), step('2', 10), step('3', 5)]).words).toBe(
      'Leave the knob at 2: only this one is good.',
    );
    // Of an even number the lower one: a knob is turned up by accident more easily than down.
    expect(judgeSweep([step('1', 9), step('2', 9), step('3', 1)]).best).toBe('1');
  });

  it('the longest good stretch counts, not a lucky position apart', () => {
    expect(judgeSweep([step('1', 10), step('2', 2), step('3', 9), step('4', 9), step('5', 9)]).best).toBe(
      '4',
    );
  });

  it('what may well be as good is good: its upper bound reaches to a twentieth below the best', () => {
    const best = (read: number) =>
      judgeSweep([step('1', 100, 100), step('2', read, 100), step('3', 0, 100)]).words;
    // Wilson 1927: 91 of 100 reaches to 0.952, 90 of 100 to 0.945.
    expect(best(91)).toContain('from 1 to 2');
    expect(best(90)).toContain('only this one');
  });

  it('says when too little was heard, or when it is not the level', () => {
    expect(judgeSweep([step('1', 5, 5), step('2', 4, 4)])).not.toHaveProperty('best');
    expect(judgeSweep([step('1', 5, 5), step('2', 5, 5)])).toHaveProperty('best');
    expect(judgeSweep([step('1', 2), step('2', 2)]).words).toContain('not the level');
    expect(judgeSweep([step('1', 3), step('2', 2)])).toHaveProperty('best');
  });
});
