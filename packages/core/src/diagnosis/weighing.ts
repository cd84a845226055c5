import { complaintChance, testsThatTell, weighed, type Finding, type Suspect } from '../faults/bayes.js';
import { FAULT_IDS, FAULTS, type Fault, type FaultId } from '../faults/faults.js';
import type { TestId } from '../faults/tests.js';
import type { Difference } from '../logbook/moment.js';
import { isUnusuallySilent, type Cause, type ChainFacts } from './causes.js';
import { factorsOf } from './changed.js';
import type { Verdict } from './verdict.js';

export interface LikelyCause {
  readonly cause: string;
  readonly test: string;
  /** What of the table of faults it is. */
  readonly faults: readonly FaultId[];
  /** 0–1; all of them are 1 with those that are too unlikely to be told. Absent: it holds several of those behind it. */
  readonly likely?: number;
}

/** The causes of a verdict by all that is known, the likeliest first. next: what would tell most per minute; absent: no test would. */
export interface Weighing {
  readonly causes: readonly LikelyCause[];
  readonly next?: TestId;
}

const TOLD_FROM = 0.02;
const MOST_TOLD = 7;
/** A test that is expected to tell less is not worth its minutes. */
const LEAST_BITS = 0.05;
/** The table’s weights against those of the causes of a rung (common practice, no source). */
const OF_THE_TABLE = 2;

/**
 * facts.findings: what is known already; tried: what the operator did now, and how it came out, which counts before that;
 * changed: what is otherwise since it last worked.
 */
export function weigh(
  { causes, complaint }: Verdict,
  facts: ChainFacts,
  tried: readonly Finding[] = [],
  changed: readonly Difference[] = [],
): Weighing {
  if (causes.length === 0 && complaint === undefined) return { causes: [] };
  const known = knownFindings(facts).filter(({ test }) => tried.every((one) => one.test !== test));
  const factors = factorsOf(changed);
  const listed = causes.filter(({ isLump }) => !isLump).map(fromList(factors));
  const lumps = tried.length > 0 ? [] : causes.filter(({ isLump }) => isLump);
  const named = new Set(causes.flatMap(({ faults = [] }) => faults));
  const more =
    complaint === undefined
      ? []
      : FAULT_IDS.filter((fault) => !named.has(fault) && canBe(fault, facts)).map((fault) =>
          fromTable(fault, complaintChance(fault, complaint) * (factors[fault] ?? 1) * usual(fault, facts)),
        );
  const suspects = [...listed, ...more];
  const findings = [...known, ...tried];
  const likely = weighed(suspects, findings);
  const now = suspects.map((suspect, i) => ({ ...suspect, weight: likely[i] as number }));
  const [best] = testsThatTell(
    now,
    findings.map(({ test }) => test),
  );
  return {
    causes: [
      ...lumps.map(({ cause, test }) => ({ cause, test, faults: [] })),
      ...now
        .map(({ cause, test, faults, weight }) => ({ cause, test, faults, likely: weight }))
        .sort((a, b) => b.likely - a.likely)
        .filter((one, i) => one.likely >= TOLD_FROM && i < MOST_TOLD),
    ],
    ...(best && best.bits >= LEAST_BITS ? { next: best.test } : {}),
  };
}

/** What came in tells by itself: a port that speaks KISS, a receiver that hears. */
export function knownFindings(facts: ChainFacts): readonly Finding[] {
  const { decoded, findings = [] } = facts;
  if (decoded === 0 || isUnusuallySilent(facts)) return findings;
  const heard: Finding[] = [
    { test: 'port', outcome: 'KISS frames' },
    { test: 'listen', outcome: 'packets are heard' },
  ];
  return [...findings, ...heard.filter(({ test }) => findings.every((one) => one.test !== test))];
}

/** Where it is known to be keyed in that way, what goes wrong with it is so much likelier than in all chains (common practice, no source). */
const KEYED_SO = 3;
function usual(fault: FaultId, { chain }: ChainFacts): number {
  const isVox = (fault === 'vox-slow' || fault === 'vox-hang') && chain?.keying === 'VOX';
  const isTone = fault === 'keying-tone' && chain?.keying === 'steady tone';
  return isVox || isTone ? KEYED_SO : 1;
}

type Told = Suspect & Pick<LikelyCause, 'cause' | 'test' | 'faults'>;

const fromList =
  (factors: Readonly<Partial<Record<FaultId, number>>>) =>
  ({ cause, test, weight, faults = [], outlook = {} }: Cause): Told => ({
    ...{ cause, test, faults },
    weight: weight * Math.max(1, ...faults.map((fault) => factors[fault] ?? 1)),
    outlooks: faults.length > 0 ? faults.map((fault) => FAULTS[fault].tests) : [outlook],
  });

function fromTable(id: FaultId, factor: number): Told {
  const { name, told, mend, weight, tests }: Fault = FAULTS[id];
  return {
    cause: `${name}.`,
    test: `What tells it: ${told}. ${mend}`,
    faults: [id],
    weight: OF_THE_TABLE * weight * factor,
    outlooks: [tests],
  };
}

/** Only a chain that has the thing can have it wrong. */
function canBe(fault: FaultId, { linkKind, talksKiss, chain }: ChainFacts): boolean {
  switch (fault) {
    case 'kiss-off':
      return linkKind !== 'sound' && talksKiss !== true;
    case 'wrong-port':
      return linkKind === 'network' && talksKiss !== true;
    case 'vox-slow':
    case 'vox-hang':
      return chain?.keying === undefined || chain.keying === 'VOX';
    case 'keying-tone':
      return chain?.keying === undefined || chain.keying === 'steady tone';
    case 'internet-only':
      return chain?.hasInternetWay ?? true;
    case 'radio-control':
      return chain?.hasRadioControl ?? true;
    default:
      return true;
  }
}
