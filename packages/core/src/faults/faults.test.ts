import { drawnBy, seededDice } from '../network/dice.js';
import { likelihoods, nextTests, outcomeChance, complaintChance, type Finding } from './bayes.js';
import { FAULT_IDS, FAULTS, type FaultId } from './faults.js';
import { COMPLAINTS, TEST_IDS, TESTS, type Complaint, type TestId } from './tests.js';

it('every table is one: chances of a test are 1 in all, and name only outcomes that there are', () => {
  for (const fault of FAULT_IDS) {
    for (const [test, named] of Object.entries(FAULTS[fault].tests))
      for (const outcome of Object.keys(named)) expect(TESTS[test as TestId].outcomes).toContain(outcome);
    for (const test of TEST_IDS) {
      const sum = TESTS[test].outcomes.reduce((all, outcome) => all + outcomeChance(fault, test, outcome), 0);
      expect([fault, test, sum]).toEqual([fault, test, expect.closeTo(1, 9)]);
    }
    const said = COMPLAINTS.reduce((all, one) => all + complaintChance(fault, one), 0);
    expect(said).toBeCloseTo(1, 9);
  }
  expect(outcomeChance('path', 'echo', 'no such outcome')).toBe(0);
});

it('by hand: two faults of weights 3 and 4, one of which the finding tells from the other', () => {
  const found = likelihoods(undefined, [{ test: 'apps', outcome: 'one holds it' }]);
  const of = (fault: FaultId): number => found.find((one) => one.fault === fault)?.likely ?? 0;
  // 3 × 0.95 against 4 × 0.04.
  expect(of('held') / of('wrong-band')).toBeCloseTo((3 * 0.95) / (4 * 0.04), 6);
  expect(found.reduce((sum, { likely }) => sum + likely, 0)).toBeCloseTo(1, 9);
  expect(found[0]?.fault).toBe('held');
  const changed = likelihoods(undefined, [{ test: 'apps', outcome: 'one holds it' }], { 'wrong-band': 1000 });
  expect(changed[0]?.fault).toBe('wrong-band');
});

it('a test that is done tells nothing more; one that cannot tell, tells nothing', () => {
  const now = likelihoods('times make no sense', []);
  expect(nextTests(now, ['clock']).some(({ test }) => test === 'clock')).toBe(false);
  const sure = FAULT_IDS.map((fault) => ({ fault, likely: fault === 'clock' ? 1 : 0 }));
  expect(nextTests(sure, []).every(({ bits }) => bits === 0)).toBe(true);
  const [first, second] = nextTests(likelihoods(undefined, []), []);
  expect((first?.bitsPerMinute ?? 0) >= (second?.bitsPerMinute ?? 0)).toBe(true);
});

describe('sought by what tells most per minute', () => {
  const SEEDS = 200;
  /** After how many tests the true one is among the first two; Infinity: not within three. */
  const testsUntilFound = (fault: FaultId, dice: () => number): number => {
    const complaint = drawnBy<Complaint>(COMPLAINTS, (one) => complaintChance(fault, one), dice);
    const findings: Finding[] = [];
    for (let tests = 0; tests <= 3; tests++) {
      const now = likelihoods(complaint, findings);
      if (now.slice(0, 2).some((one) => one.fault === fault)) return tests;
      const test = nextTests(
        now,
        findings.map((one) => one.test),
      )[0]?.test as TestId;
      findings.push({
        test,
        outcome: drawnBy<string>(TESTS[test].outcomes, (one) => outcomeChance(fault, test, one), dice),
      });
    }
    return Infinity;
  };

  it.each(FAULT_IDS)('%s is among the first two after at most three tests in 95 % of seeds', (fault) => {
    let found = 0;
    for (let seed = 0; seed < SEEDS; seed++)
      if (testsUntilFound(fault, seededDice(seed * 7919 + FAULT_IDS.indexOf(fault))) <= 3) found++;
    expect(found / SEEDS).toBeGreaterThanOrEqual(0.95);
  });
});
