import { drawnBy, seededDice } from '../network/dice.js';
import { complaintChance, likelihoods, nextTests, outcomeChance, type Finding } from '../faults/bayes.js';
import { FAULT_IDS, FAULTS, type FaultId } from '../faults/faults.js';
import { COMPLAINTS, TESTS, type Complaint, type TestId } from '../faults/tests.js';

/** One drill as it stands. named: what the learner took for the causes, once he has. */
export interface Drill {
  readonly seed: number;
  readonly faults: readonly FaultId[];
  readonly complaint: Complaint;
  readonly findings: readonly Finding[];
  readonly named?: readonly FaultId[];
}

/** The ten in the order in which a chain is built and used. */
export const COURSE: readonly FaultId[] = [
  'kiss-off',
  'wrong-band',
  'squelch',
  'held',
  'vox-slow',
  'over-deviated',
  'path',
  'internet-only',
  'gateway-silent',
  'ssid',
];

/** A drill with these faults; one or two. */
export function drillOf(faults: readonly FaultId[], seed: number): Drill {
  const throwDice = seededDice(seed);
  const loudest = faults[0] ?? 'kiss-off';
  return {
    seed,
    faults,
    complaint: drawnBy(COMPLAINTS, (one) => complaintChance(loudest, one), throwDice),
    findings: [],
  };
}

/** One by surprise; of two, each is another. weak: faults that are to come more often. among: those that can be had. */
export function surpriseDrill(
  count: 1 | 2,
  seed: number,
  weak: readonly FaultId[] = [],
  among: readonly FaultId[] = FAULT_IDS,
): Drill {
  const throwDice = seededDice(seed ^ 0x5bd1e995);
  const faults: FaultId[] = [];
  while (faults.length < count) {
    const left = among.filter((one) => !faults.includes(one));
    const weights = left.map((one) => (weak.includes(one) ? 4 : 1));
    const total = weights.reduce((sum, one) => sum + one, 0);
    faults.push(drawnBy(left, (one) => (weights[left.indexOf(one)] as number) / total, throwDice));
  }
  return drillOf(faults, seed);
}

/**
 * A test is done: its outcome follows from the faults and the seed, and is the same however often it is asked for. With two faults
 * the one to which the test says more shows.
 */
export function ask(drill: Drill, test: TestId): Drill {
  if (drill.named || drill.findings.some((one) => one.test === test)) return drill;
  const { outcomes } = TESTS[test];
  const speaking = drill.faults.find((fault) => test in FAULTS[fault].tests) ?? drill.faults[0];
  const throwDice = seededDice(drill.seed ^ (Object.keys(TESTS).indexOf(test) * 0x9e3779b1));
  const outcome = drawnBy<string>(
    outcomes,
    (one) => outcomeChance(speaking as FaultId, test, one),
    throwDice,
  );
  return { ...drill, findings: [...drill.findings, { test, outcome }] };
}

/** The learner names the causes; that ends it. */
export const name = (drill: Drill, named: readonly FaultId[]): Drill =>
  drill.named ? drill : { ...drill, named };

/** What it has cost so far. */
export function costOf({ findings }: Pick<Drill, 'findings'>): {
  minutes: number;
  packets: number;
  tests: number;
} {
  return {
    tests: findings.length,
    minutes: findings.reduce((sum, { test }) => sum + TESTS[test].minutes, 0),
    packets: findings.reduce((sum, { test }) => sum + TESTS[test].packets, 0),
  };
}

const SURE = 0.8;

/** The same drill as whoever goes by what tells most per minute would have done it. */
export function quickest(drill: Drill): Drill {
  let now = drillOf(drill.faults, drill.seed);
  for (;;) {
    const likely = likelihoods(now.complaint, now.findings);
    if ((likely[0]?.likely ?? 0) >= SURE) break;
    const next = nextTests(
      likely,
      now.findings.map(({ test }) => test),
    )[0];
    if (!next) break;
    now = ask(now, next.test);
  }
  return now;
}
