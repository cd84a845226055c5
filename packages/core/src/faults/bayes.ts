import { FAULT_IDS, FAULTS, type Fault, type FaultId, type Outlook } from './faults.js';
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

/** How likely a test comes out so where that outlook holds. */
export function chanceOf(outlook: Outlook, test: TestId, outcome: string): number {
  const { outcomes } = testOf(test);
  if (!outcomes.includes(outcome)) return 0;
  const named = outlook[test] ?? { [outcomes[0] as string]: WELL };
  const known = named[outcome];
  if (known !== undefined) return known;
  const rest = 1 - Object.values(named).reduce((sum, one) => sum + one, 0);
  return rest / (outcomes.length - Object.keys(named).length);
}

/** How likely a test comes out so with that fault. */
export const outcomeChance = (fault: FaultId, test: TestId, outcome: string): number =>
  chanceOf(faultOf(fault).tests, test, outcome);

/** How likely the operator with that fault says so first. */
export function complaintChance(fault: FaultId, complaint: Complaint): number {
  const { complaints } = faultOf(fault);
  const total = Object.values(complaints).reduce((sum, one) => sum + one, 0);
  const free = 1 - SAID_WRONGLY * COMPLAINTS.length;
  return SAID_WRONGLY + (free * (complaints[complaint] ?? 0)) / total;
}

/** What may be the matter. weight: how likely before anything was tried, in any unit. outlooks: with several, any of them may hold. */
export interface Suspect {
  readonly weight: number;
  readonly outlooks: readonly Outlook[];
}

const chanceWith = ({ outlooks }: Suspect, test: TestId, outcome: string): number =>
  outlooks.reduce((sum, outlook) => sum + chanceOf(outlook, test, outcome), 0) / outlooks.length;

/** How likely each is, 0–1, all of them 1 (Bayes, tests taken as independent of each other). */
export function weighed(suspects: readonly Suspect[], findings: readonly Finding[]): number[] {
  const weights = suspects.map((suspect) =>
    findings.reduce(
      (product, { test, outcome }) => product * chanceWith(suspect, test, outcome),
      suspect.weight,
    ),
  );
  const total = weights.reduce((sum, one) => sum + one, 0) || 1;
  return weights.map((weight) => weight / total);
}

const suspectOf = (fault: FaultId, weight: number): Suspect => ({
  weight,
  outlooks: [faultOf(fault).tests],
});

/** All faults, the likeliest first. before: what speaks for a fault beforehand, as factors. */
export function likelihoods(
  complaint: Complaint | undefined,
  findings: readonly Finding[],
  before: Readonly<Partial<Record<FaultId, number>>> = {},
): Likelihood[] {
  const suspects = FAULT_IDS.map((fault) => {
    const prior = faultOf(fault).weight * (before[fault] ?? 1);
    return suspectOf(fault, complaint === undefined ? prior : prior * complaintChance(fault, complaint));
  });
  const likely = weighed(suspects, findings);
  return FAULT_IDS.map((fault, i) => ({ fault, likely: likely[i] as number })).sort(
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

/** What each test that was not done is expected to tell of the faults, most per minute first. */
export const nextTests = (now: readonly Likelihood[], done: readonly TestId[]): NextTest[] =>
  testsThatTell(
    now.map(({ fault, likely }) => suspectOf(fault, likely)),
    done,
  );

/** The same of any suspects; their weights are how likely each is now, 1 in all. */
export function testsThatTell(now: readonly Suspect[], done: readonly TestId[]): NextTest[] {
  const before = entropy(now.map(({ weight }) => weight));
  return TEST_IDS.filter((test) => !done.includes(test))
    .map((test) => {
      const { outcomes, minutes } = testOf(test);
      let after = 0;
      for (const outcome of outcomes) {
        const joint = now.map((suspect) => suspect.weight * chanceWith(suspect, test, outcome));
        const chance = joint.reduce((sum, one) => sum + one, 0);
        if (chance > 0) after += chance * entropy(joint.map((one) => one / chance));
      }
      const bits = Math.max(0, before - after);
      return { test, bits, bitsPerMinute: bits / minutes };
    })
    .sort((a, b) => b.bitsPerMinute - a.bitsPerMinute || b.bits - a.bits);
}
