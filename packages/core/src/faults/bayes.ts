import { FAULT_IDS, FAULTS, type Fault, type FaultId } from './faults.js';
import { COMPLAINTS, TEST_IDS, TESTS, type Complaint, type Test, type TestId } from './tests.js';

/** What came out. */
export interface Finding {
  readonly test: TestId;
  readonly outcome: string;
}

export interface Likelihood {
  readonly fault: FaultId;
  /** 0–1; all of them are 1. */
  readonly likely: number;
}

/** When nothing is wrong a test comes out well so often: people misread, channels fade (common practice, no source). */
const WELL = 0.96;
/** A complaint that no fault is known for is said all the same now and then. */
const SAID_WRONGLY = 0.002;

const testOf = (id: TestId): Test => TESTS[id];
const faultOf = (id: FaultId): Fault => FAULTS[id];

/** How likely a test comes out so with that fault. */
export function outcomeChance(fault: FaultId, test: TestId, outcome: string): number {
  const { outcomes } = testOf(test);
  if (!outcomes.includes(outcome)) return 0;
  const named = faultOf(fault).tests[test] ?? { [outcomes[0] as string]: WELL };
  const known = named[outcome];
  if (known !== undefined) return known;
  const rest = 1 - Object.values(named).reduce((sum, one) => sum + one, 0);
  return rest / (outcomes.length - Object.keys(named).length);
}

/** How likely the operator with that fault says so first. */
export function complaintChance(fault: FaultId, complaint: Complaint): number {
  const { complaints } = faultOf(fault);
  const total = Object.values(complaints).reduce((sum, one) => sum + one, 0);
  const free = 1 - SAID_WRONGLY * COMPLAINTS.length;
  return SAID_WRONGLY + (free * (complaints[complaint] ?? 0)) / total;
}

/** All faults, the likeliest first (Bayes, tests taken as independent of each other). before: what speaks for a fault beforehand, as factors. */
export function likelihoods(
  complaint: Complaint | undefined,
  findings: readonly Finding[],
  before: Readonly<Partial<Record<FaultId, number>>> = {},
): Likelihood[] {
  const weights = FAULT_IDS.map((fault) => {
    const prior = faultOf(fault).weight * (before[fault] ?? 1);
    const said = complaint === undefined ? 1 : complaintChance(fault, complaint);
    return findings.reduce(
      (sum, { test, outcome }) => sum * outcomeChance(fault, test, outcome),
      prior * said,
    );
  });
  const total = weights.reduce((sum, one) => sum + one, 0) || 1;
  return FAULT_IDS.map((fault, i) => ({ fault, likely: (weights[i] as number) / total })).sort(
    (a, b) => b.likely - a.likely,
  );
}

const entropy = (chances: readonly number[]): number =>
  chances.reduce((sum, one) => (one > 0 ? sum - one * Math.log2(one) : sum), 0);

export interface NextTest {
  readonly test: TestId;
  /** Bits that it is expected to tell, and per minute. */
  readonly bits: number;
  readonly bitsPerMinute: number;
}

/** What each test that was not done is expected to tell, most per minute first. */
export function nextTests(now: readonly Likelihood[], done: readonly TestId[]): NextTest[] {
  const before = entropy(now.map(({ likely }) => likely));
  return TEST_IDS.filter((test) => !done.includes(test))
    .map((test) => {
      const { outcomes, minutes } = testOf(test);
      let after = 0;
      for (const outcome of outcomes) {
        const joint = now.map(({ fault, likely }) => likely * outcomeChance(fault, test, outcome));
        const chance = joint.reduce((sum, one) => sum + one, 0);
        if (chance > 0) after += chance * entropy(joint.map((one) => one / chance));
      }
      const bits = Math.max(0, before - after);
      return { test, bits, bitsPerMinute: bits / minutes };
    })
    .sort((a, b) => b.bitsPerMinute - a.bitsPerMinute || b.bits - a.bits);
}
