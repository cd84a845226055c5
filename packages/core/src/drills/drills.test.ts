import { FAULT_IDS, type FaultId } from '../faults/faults.js';
import { TEST_IDS, TESTS } from '../faults/tests.js';
import { likelihoods } from '../faults/bayes.js';
import { ask, costOf, COURSE, drillOf, name, quickest, surpriseDrill, type Drill } from './drill.js';
import { explanationOf, resultOf, scoreOf, weakIn, type DrillResult } from './score.js';

it('the course has ten different drills, all of known faults', () => {
  expect(new Set(COURSE).size).toBe(10);
  for (const fault of COURSE) expect(FAULT_IDS).toContain(fault);
});

it('the same seed is the same drill, whatever the order in which tests are asked for', () => {
  const one = ask(ask(drillOf(['squelch'], 7), 'meter'), 'port');
  const other = ask(ask(drillOf(['squelch'], 7), 'port'), 'meter');
  expect(other.complaint).toBe(one.complaint);
  const inOrder = (findings: typeof one.findings) => [...findings].sort((a, b) => (a.test < b.test ? -1 : 1));
  expect(inOrder(one.findings)).toEqual(inOrder(other.findings));
});

it('a test asked for twice costs once; after the causes are named nothing is asked any more', () => {
  const once = ask(drillOf(['path'], 3), 'echo');
  expect(ask(once, 'echo')).toBe(once);
  const ended = name(once, ['path']);
  expect(ask(ended, 'meter')).toBe(ended);
  expect(name(ended, ['held'])).toBe(ended);
  expect(costOf(once)).toEqual({ tests: 1, minutes: TESTS.echo.minutes, packets: 1 });
});

it('a surprise is one or two faults, never the same twice; weak ones come more often', () => {
  let weak = 0;
  for (let seed = 0; seed < 400; seed++) {
    const { faults } = surpriseDrill(2, seed, ['clock']);
    expect(new Set(faults).size).toBe(2);
    if (surpriseDrill(1, seed, ['clock']).faults[0] === 'clock') weak++;
    for (const fault of surpriseDrill(2, seed, ['clock'], ['path', 'held', 'deaf']).faults)
      expect(['path', 'held', 'deaf']).toContain(fault);
  }
  // 4 of 25, of 400: 64, with a deviation of 7.
  expect(weak).toBeGreaterThan(40);
  expect(weak).toBeLessThan(90);
});

it('of two faults each shows in the tests that it alone speaks in', () => {
  let both = 0;
  for (let seed = 0; seed < 100; seed++) {
    const asked = ask(ask(drillOf(['clock', 'ssid'], seed), 'own'), 'clock');
    if (asked.findings[0]?.outcome === 'from another place' && asked.findings[1]?.outcome === 'wrong') both++;
  }
  expect(both).toBeGreaterThan(80);
});

it('the quickest way finds it, and scores full; a wrong name, minutes and packets cost', () => {
  const drill = quickest(drillOf(['over-deviated'], 5));
  expect(scoreOf(name(drill, ['over-deviated']))).toBe(100);
  expect(scoreOf(name(drill, ['path']))).toBe(20);
  expect(scoreOf(name(drill, ['over-deviated', 'path']))).toBe(60);
  expect(scoreOf(name(drill, []))).toBe(60);
  const dear = TEST_IDS.reduce((now, test) => ask(now, test), drill);
  expect(scoreOf(name(dear, ['over-deviated']))).toBe(60);
  const once = TEST_IDS.find(
    (test) =>
      TESTS[test].minutes === 1 &&
      TESTS[test].packets === 0 &&
      !drill.findings.some((one) => one.test === test),
  );
  expect(scoreOf(name(ask(drill, once ?? 'clock'), ['over-deviated']))).toBe(97);
});

it('the quickest way ends with the test that makes it sure, or when no test is left', () => {
  const likely = (drill: Drill, findings: Drill['findings']): number =>
    likelihoods(drill.complaint, findings)[0]?.likely ?? 0;
  const two = FAULT_IDS.slice(1).map((fault, i) => [fault, FAULT_IDS[i] as FaultId]);
  const lengths = [...FAULT_IDS.map((fault) => [fault]), ...two].flatMap((faults) =>
    [1, 2, 3].map((seed) => {
      const drill = quickest(drillOf(faults, seed));
      const { findings } = drill;
      if (findings.length < TEST_IDS.length) expect(likely(drill, findings)).toBeGreaterThanOrEqual(0.8);
      if (findings.length > 0) expect(likely(drill, findings.slice(0, -1))).toBeLessThan(0.8);
      return findings.length;
    }),
  );
  // What is sure from the complaint alone needs none.
  expect(Math.min(...lengths)).toBe(0);
});

it('the explanation names the findings that told it, and not those that told nothing', () => {
  const drill = ask(ask(drillOf(['clock'], 1), 'clock'), 'meter');
  const [one] = explanationOf(drill);
  expect(one?.by).toEqual([`${TESTS.clock.what}: wrong`]);
  expect(one?.mend).toMatch(/Set it/);
  // Silence at another gateway is three times as likely with a mistyped call (0.12 against 0.04): not told by that.
  const silent = [{ test: 'another', outcome: 'no answer' }] as const;
  expect(explanationOf({ ...drillOf(['mistyped'], 1), findings: silent })[0]?.by).toEqual([]);
  expect(explanationOf({ ...drillOf(['corrected'], 1), findings: silent })[0]?.by).toHaveLength(1);
  // A silent port is six times as likely with KISS off (0.08 against 0.04/3): that is enough. Nothing lies between.
  const atPort = [{ test: 'port', outcome: 'silence' }] as const;
  expect(explanationOf({ ...drillOf(['kiss-off'], 1), findings: atPort })[0]?.by).toHaveLength(1);
});

it('one is weak at what was missed as often as found', () => {
  const result = (faults: DrillResult['faults'], named: DrillResult['named']): DrillResult => ({
    ...{ atMs: 0, tests: 0, minutes: 0, packets: 0, score: 0 },
    ...{ faults, named },
  });
  const results = [
    result(['path'], ['path']),
    result(['path'], ['held']),
    result(['held', 'clock'], ['clock']),
    result(['held'], []),
    result(['ssid'], ['ssid']),
  ];
  expect(weakIn(results)).toEqual(['held', 'path']);
  expect(resultOf(name(drillOf(['path'], 1), ['path']), 5)).toMatchObject({
    atMs: 5,
    faults: ['path'],
    tests: 0,
  });
});
