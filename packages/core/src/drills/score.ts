import { FAULTS, type FaultId } from '../faults/faults.js';
import { outcomeChance } from '../faults/bayes.js';
import { TESTS } from '../faults/tests.js';
import { costOf, quickest, type Drill } from './drill.js';

/** What is kept of a drill that was ended. */
export interface DrillResult {
  readonly atMs: number;
  readonly faults: readonly FaultId[];
  readonly named: readonly FaultId[];
  readonly tests: number;
  readonly minutes: number;
  readonly packets: number;
  readonly score: number;
  /** On the real pages of the practice world. */
  readonly onPages?: true;
}

/** What a drill on the real pages has cost beside the tests that were asked for: minutes by the clock, packets that left. */
export interface Spent {
  readonly minutes: number;
  readonly packets: number;
}

/** A wrong name costs more than any test; each minute and packet over the quickest way a little (our own measure). */
const WRONG = 40;
const A_MINUTE = 3;
const A_PACKET = 2;
/** On the real pages one has to walk and to read: so many minutes are free (our own measure). */
const WALK_MINUTES = 10;

/** 0–100: all causes named, as quickly as whoever goes by what tells most. spent: on the real pages. */
export function scoreOf(drill: Drill, spent?: Spent): number {
  const { faults, named = [] } = drill;
  const missed = faults.filter((one) => !named.includes(one)).length;
  const invented = named.filter((one) => !faults.includes(one)).length;
  const [own, best] = [costOf(drill), costOf(quickest(drill))];
  const minutes = own.minutes + Math.max(0, (spent?.minutes ?? 0) - WALK_MINUTES);
  const packets = own.packets + (spent?.packets ?? 0);
  const dear =
    A_MINUTE * Math.max(0, minutes - best.minutes) + A_PACKET * Math.max(0, packets - best.packets);
  return Math.max(0, Math.round(100 - WRONG * (missed + invented) - Math.min(dear, WRONG)));
}

export function resultOf(drill: Drill, atMs: number, spent?: Spent): DrillResult {
  const { faults, named = [] } = drill;
  const { tests, minutes, packets } = costOf(drill);
  return {
    atMs,
    faults,
    named,
    tests,
    minutes: minutes + Math.round(spent?.minutes ?? 0),
    packets: packets + (spent?.packets ?? 0),
    score: scoreOf(drill, spent),
    ...(spent ? { onPages: true } : {}),
  };
}

/** A finding that speaks for a fault so many times more than its absence told it. */
const TELLING = 5;

/** What told it: each cause with the findings that speak for it, and how to mend it. */
export function explanationOf({ faults, findings }: Drill): readonly {
  readonly fault: FaultId;
  readonly words: string;
  readonly mend: string;
  readonly by: readonly string[];
}[] {
  return faults.map((fault) => ({
    fault,
    words: FAULTS[fault].told,
    mend: FAULTS[fault].mend,
    by: findings
      .filter(({ test, outcome }) => {
        const usual = outcome === TESTS[test].outcomes[0] ? 0.96 : 0.04 / (TESTS[test].outcomes.length - 1);
        return outcomeChance(fault, test, outcome) >= TELLING * usual;
      })
      .map(({ test, outcome }) => `${TESTS[test].what}: ${outcome}`),
  }));
}

/** Faults that were missed at least as often as found, the most often missed first. */
export function weakIn(results: readonly DrillResult[]): FaultId[] {
  const missed = new Map<FaultId, number>();
  for (const { faults, named } of results)
    for (const fault of faults)
      missed.set(fault, (missed.get(fault) ?? 0) + (named.includes(fault) ? -1 : 1));
  return [...missed]
    .filter(([, balance]) => balance >= 0)
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .map(([fault]) => fault);
}
