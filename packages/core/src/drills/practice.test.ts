import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { FAULT_IDS } from '../faults/faults.js';
import { TEST_IDS } from '../faults/tests.js';
import { drillOf, name, quickest } from './drill.js';
import {
  EXERCISE_IDS,
  exerciseOrder,
  exerciseTask,
  relaySteps,
  relayText,
  tallySteps,
  type RelayEvidence,
  type TallyEvidence,
} from './exercises.js';
import { ALL_WELL, formatOrder, ON_PAGES, orderOf, parseOrder, WORLD_FAULTS } from './practice.js';
import { resultOf, scoreOf } from './score.js';

const ISLAND = {
  ownCall: 'A1AAA-7',
  gateways: ['B1BBB-10', 'C1CCC-10', 'D1DDD-10', 'E1EEE-10'],
  gathers: 'H1HHH',
  asks: 'F1FFF-7',
  reaches: 'G1GGG-9',
};

describe('what the practice world is told', () => {
  it('comes through as it was said', () => {
    const call = fc.constantFrom('A1AAA', 'B1BBB-10', 'C1CCC-7');
    const order = fc.record({
      faults: fc.subarray([...WORLD_FAULTS]),
      ownCall: call,
      gateways: fc.dictionary(call, fc.constantFrom('serves' as const, 'silent' as const)),
      says: fc.record({ from: call, to: call, text: fc.string({ maxLength: 67 }) }),
    });
    // A text of 67 quotation marks takes twice as much.
    fc.assert(fc.property(order, (one) => expect(parseOrder(formatOrder(one))).toEqual(one)));
    expect(parseOrder(formatOrder(ALL_WELL))).toEqual(ALL_WELL);
  });

  it('of whatever comes in no order is made, and nothing breaks', () => {
    fc.assert(fc.property(fc.string(), (text) => expect(isMalformed(parseOrder(text))).toBe(true)));
    fc.assert(
      fc.property(fc.json(), (text) => {
        const order = parseOrder(text);
        if (!isMalformed(order)) expect(order.faults.every((one) => WORLD_FAULTS.includes(one))).toBe(true);
      }),
    );
  });

  it.each([
    ['no fault of the world', { faults: ['clock'], gateways: {} }],
    ['no list of faults', { faults: 'deaf', gateways: {} }],
    ['no gateways', { faults: [] }],
    ['no gateways at all', { faults: [], gateways: null }],
    ['a gateway that is no call', { faults: [], gateways: { 'B1BBB-16': 'silent' } }],
    ['another manner', { faults: [], gateways: { 'B1BBB-10': 'sings' } }],
    ['an own call that is none', { faults: [], gateways: {}, ownCall: 'A 1' }],
    [
      'a text too long',
      { faults: [], gateways: {}, says: { from: 'A1AAA', to: 'B1BBB', text: 'x'.repeat(68) } },
    ],
    ['nobody to say it', { faults: [], gateways: {}, says: { to: 'B1BBB', text: 'x' } }],
    ['nobody to hear it', { faults: [], gateways: {}, says: { from: 'B1BBB', text: 'x' } }],
    ['no text', { faults: [], gateways: {}, says: { from: 'B1BBB', to: 'A1AAA' } }],
    ['too many gateways', { faults: [], gateways: gateways(21) }],
    ['too long', { faults: [], gateways: gateways(20), more: 'x'.repeat(2000) }],
  ])('is refused: %s', (_, order) => expect(isMalformed(parseOrder(JSON.stringify(order)))).toBe(true));

  it('may name twenty gateways, and be of two thousand characters', () => {
    const line = JSON.stringify({ faults: [], gateways: gateways(20) });
    expect(isMalformed(parseOrder(line.padEnd(2000)))).toBe(false);
    expect(isMalformed(parseOrder(line.padEnd(2001)))).toBe(true);
  });
});

function gateways(count: number): Record<string, string> {
  return Object.fromEntries(
    Array.from({ length: count }, (_, i) => [`B${i % 10}BB${'ABC'[Math.floor(i / 10)]}-1`, 'silent']),
  );
}

describe('the world for a drill', () => {
  it('takes the gateways in the order in which they are called', () => {
    expect(orderOf(['gateway-service'], ISLAND).gateways).toEqual({ 'B1BBB-10': 'without service' });
    expect(orderOf(['gateway-silent', 'gateway-service'], ISLAND)).toEqual({
      faults: ['gateway-silent', 'gateway-service'],
      ownCall: 'A1AAA-7',
      gateways: { 'B1BBB-10': 'silent', 'C1CCC-10': 'without service' },
    });
    expect(orderOf(['deaf'], { ...ISLAND, gateways: [] }).gateways).toEqual({});
  });

  it('leaves out what it cannot have', () =>
    expect(orderOf(['clock', 'path'], ISLAND).faults).toEqual(['path']));

  it('knows faults and tests of the tables alone', () => {
    for (const fault of WORLD_FAULTS) expect(FAULT_IDS).toContain(fault);
    for (const test of Object.keys(ON_PAGES)) expect(TEST_IDS).toContain(test);
  });
});

describe('the score on the real pages', () => {
  const drill = name(quickest(drillOf(['over-deviated'], 5)), ['over-deviated']);

  it('ten minutes are free, then each costs, as does each packet', () => {
    expect(scoreOf(drill, { minutes: 10, packets: 0 })).toBe(100);
    expect(scoreOf(drill, { minutes: 12, packets: 0 })).toBe(94);
    expect(scoreOf(drill, { minutes: 2, packets: 3 })).toBe(94);
  });

  it('is kept with what it took in all', () => {
    const asked = resultOf(drill, 7);
    expect(resultOf(drill, 7, { minutes: 4.4, packets: 3 })).toEqual({
      ...asked,
      minutes: asked.minutes + 4,
      packets: asked.packets + 3,
      score: 94,
      onPages: true,
    });
    expect(asked.onPages).toBeUndefined();
  });
});

describe('the evening’s tally by the third gateway', () => {
  const run = (gateways: readonly string[], takenSubjects: readonly string[] = []) => ({
    attempts: gateways.map((gateway) => ({
      gateway,
      isDone: gateway === gateways.at(-1) && takenSubjects.length > 0,
    })),
    takenSubjects,
  });
  const done = (evidence: TallyEvidence): boolean[] =>
    tallySteps(evidence, ISLAND).map(({ isDone }) => isDone);
  const written = [{ subject: 'Tally of today', to: ['H1HHH'] }];

  it('makes the first silent, the second without its service, and lets the third serve', () => {
    expect(exerciseOrder('tally', 1, ISLAND)).toEqual({
      faults: [],
      gateways: { 'B1BBB-10': 'silent', 'C1CCC-10': 'without service', 'D1DDD-10': 'serves' },
    });
    expect(exerciseTask('tally', ISLAND)).toContain(
      'B1BBB-10 and C1CCC-10 have trouble this evening: go on to D1DDD-10',
    );
  });

  it.each<[string, TallyEvidence, boolean[]]>([
    ['nothing yet', { written: [], runs: [] }, [false, false, false, false]],
    [
      'to somebody else',
      { written: [{ subject: 'Tally', to: ['H1HHHX'] }], runs: [] },
      [false, false, false, false],
    ],
    [
      'another letter',
      { written: [{ subject: 'totally', to: ['H1HHH'] }], runs: [] },
      [false, false, false, false],
    ],
    [
      'written, in small letters',
      { written: [{ subject: 'my tally', to: ['h1hhh@x'] }], runs: [] },
      [true, false, false, false],
    ],
    ['two tried', { written, runs: [run(['B1BBB-10', 'C1CCC-10'])] }, [true, true, true, false]],
    [
      'the third took another letter',
      { written, runs: [run(['D1DDD-10'], ['hello'])] },
      [true, false, false, false],
    ],
    [
      'the fourth took it',
      { written, runs: [run(['D1DDD-10', 'E1EEE-10'], ['Tally'])] },
      [true, false, false, false],
    ],
    [
      'all, in two sessions',
      { written, runs: [run(['B1BBB-10', 'C1CCC-10']), run(['D1DDD-10'], ['Tally'])] },
      [true, true, true, true],
    ],
  ])('%s', (_, evidence, expected) => expect(done(evidence)).toEqual(expected));
});

describe('a message relayed by hand', () => {
  const words = relayText(5);
  const asked = { from: 'F1FFF-7', text: `pse relay G1GGG-9: ${words}` };
  const done = (sent: RelayEvidence['sent'], received: RelayEvidence['received'] = [asked]): boolean[] =>
    relaySteps({ received, sent }, 5, ISLAND).map(({ isDone }) => isDone);
  const on = (more: object = {}) => ({
    to: 'G1GGG-9',
    text: `F1FFF-7: ${words}`,
    isAcknowledged: false,
    ...more,
  });

  it('is asked for within one message, with other figures each time', () => {
    expect(exerciseOrder('relay', 5, ISLAND).says).toEqual({
      from: 'F1FFF-7',
      to: 'A1AAA-7',
      text: asked.text,
    });
    const texts = Array.from({ length: 200 }, (_, seed) => relayText(seed));
    expect(new Set(texts).size).toBeGreaterThan(150);
    for (const text of texts) {
      expect(text).toMatch(/^(?:[2-9]|1\d) lamps and [2-9]0 m of rope to hide [1-6]$/);
      expect(`pse relay QH7CTC-9: ${text}`.length).toBeLessThanOrEqual(67);
    }
    const figures = texts.map((text) => text.match(/\d+/g)?.map(Number) ?? []);
    const ends = [0, 1, 2]
      .map((i) => figures.map((of) => of[i] ?? 0))
      .map((of) => [Math.min(...of), Math.max(...of)]);
    expect(ends).toEqual([
      [2, 19],
      [20, 90],
      [1, 6],
    ]);
  });

  it.each([
    ['nothing sent', [], [true, false, false, false, false]],
    ['to another', [on({ to: 'G1GGG-8' })], [true, false, false, false, false]],
    ['in other words', [on({ text: 'F1FFF-7: some lamps' })], [true, false, false, false, false]],
    ['without his call', [on({ text: words })], [true, true, false, false, false]],
    [
      'in capitals, a blank more',
      [on({ text: `f1fff ${words.toUpperCase().replace(' ', '  ')}` })],
      [true, true, true, false, false],
    ],
    ['acknowledged', [on({ isAcknowledged: true })], [true, true, true, true, false]],
    [
      'he was told, not heard',
      [on(), { to: 'F1FFF-7', text: 'done', isAcknowledged: false }],
      [true, true, true, false, false],
    ],
    [
      'all',
      [on({ isAcknowledged: true }), { to: 'F1FFF-7', text: 'done', isAcknowledged: true }],
      [true, true, true, true, true],
    ],
  ])('%s', (_, sent, expected) => expect(done(sent)).toEqual(expected));

  it('an old request is none', () => {
    expect(done([], [{ ...asked, text: `pse relay G1GGG-9: ${relayText(6)}` }])[0]).toBe(false);
    expect(done([], [{ ...asked, from: 'F1FFF-8' }])[0]).toBe(false);
  });

  it('every exercise has a task', () => {
    for (const one of EXERCISE_IDS) expect(exerciseTask(one, ISLAND).length).toBeGreaterThan(40);
  });
});
