import { complaintChance, outcomeChance, type Finding } from '../faults/bayes.js';
import { FAULT_IDS, FAULTS, type FaultId } from '../faults/faults.js';
import { COMPLAINTS, TESTS, type Complaint, type TestId } from '../faults/tests.js';
import type { Area } from '../logbook/moment.js';
import { drawnBy, seededDice } from '../network/dice.js';
import type { ChainFacts } from './causes.js';
import { broughtBy, factorsOf } from './changed.js';
import { verdictOn, type Standing, type Verdict } from './verdict.js';
import { knownFindings, weigh, type Weighing } from './weighing.js';
import { FACTS } from './testing/facts.js';

const NO_ANSWER: Finding = { test: 'call', outcome: 'no answer' };

/** What the Bench says first where the operator has that complaint; of some it can say nothing. */
const AT: Partial<Record<Complaint, [Partial<Standing>, Partial<ChainFacts>]>> = {
  'nothing is decoded': [{ next: 'packet decoded' }, { decoded: 0 }],
  'the app does not find the TNC': [{ next: 'TNC talks' }, { decoded: 0 }],
  'sent, and the radio does not key': [{ isDoubtful: true }, {}],
  'it keys, and nobody decodes it': [{ isDoubtful: true }, {}],
  'it is never repeated': [{ isDoubtful: true }, {}],
  'the gateway does not answer': [{ next: 'far station answered' }, { findings: [NO_ANSWER] }],
  'the session starts and dies': [{ next: 'data both ways' }, {}],
};
function verdictAt(complaint: Complaint, more: Partial<ChainFacts> = {}): [Verdict, ChainFacts] {
  const [standing, known] = AT[complaint] ?? [{}, {}];
  const facts = { ...FACTS, ...known, ...more };
  return [
    verdictOn({ isOpen: true, next: undefined, isDoubtful: false, ...standing }, facts) as Verdict,
    facts,
  ];
}
const first = ({ causes }: Weighing): string => causes[0]?.cause ?? '';
const of = ({ causes }: Weighing, fault: FaultId): number =>
  causes.find(({ faults }) => faults.length === 1 && faults[0] === fault)?.likely ?? 0;

describe('sought on the Bench by what tells most per minute', () => {
  const SEEDS = 100;
  /** What is said of it but seldom does not fit what the Bench sees then. */
  const OFTEN = 0.3;
  const isFound = (fault: FaultId, dice: () => number): boolean => {
    const said = COMPLAINTS.filter((one) => AT[one] && complaintChance(fault, one) > OFTEN);
    const complaint = drawnBy<Complaint>(said, () => 1 / said.length, dice);
    const ill = TESTS.call.outcomes.slice(1);
    const [all, one] = [ill.map((outcome) => outcomeChance(fault, 'call', outcome)), dice()];
    const outcome = one * ((all[0] ?? 0) + (all[1] ?? 0)) < (all[0] ?? 0) ? ill[0] : ill[1];
    const isCalled = complaint === 'the gateway does not answer';
    const [verdict, facts] = verdictAt(
      complaint,
      isCalled ? { findings: [{ test: 'call', outcome: outcome as string }] } : {},
    );
    const tried: Finding[] = [];
    for (let tests = 0; tests <= 3; tests++) {
      const { causes, next } = weigh(verdict, facts, tried);
      if (causes.slice(0, 2).some(({ faults }) => faults.includes(fault))) return true;
      if (next === undefined) return false;
      const outcomes: readonly string[] = TESTS[next].outcomes;
      tried.push({
        test: next,
        outcome: drawnBy(outcomes, (one) => outcomeChance(fault, next, one), dice),
      });
    }
    return false;
  };
  /** Those that are said by a complaint which the Bench sees. */
  const seen = FAULT_IDS.filter((fault) =>
    COMPLAINTS.some((one) => AT[one] && complaintChance(fault, one) > OFTEN),
  );

  /** What tells these comes out otherwise too often, as the table judges it; a battery is also asked for late. */
  const LEAST: Partial<Record<FaultId, number>> = { battery: 0.83, plug: 0.94, 'keying-tone': 0.94 };

  it.each(seen)('%s is among the first two after at most three tests in 95 of 100, or as said', (fault) => {
    let found = 0;
    for (let seed = 0; seed < SEEDS; seed++)
      if (isFound(fault, seededDice(seed * 7919 + FAULT_IDS.indexOf(fault)))) found++;
    expect(found / SEEDS).toBeGreaterThanOrEqual(LEAST[fault] ?? 0.95);
  });
});

describe('causes by all that is known', () => {
  it('are none where nothing is wrong', () => {
    const verdict = verdictOn({ isOpen: true, next: 'repeated', isDoubtful: false }, FACTS) as Verdict;
    expect(weigh(verdict, FACTS)).toEqual({ causes: [] });
  });

  it('keep the order of the rung while nothing else is known, and add what else it may be', () => {
    const [verdict, facts] = verdictAt('it is never repeated');
    const told = weigh(verdict, facts);
    expect(first(told)).toBe('The radio did not key.');
    expect(told.causes.map(({ cause }) => cause)).toContain(`${FAULTS.battery.name}.`);
    // Packets are decoded: no other band, no wrong port.
    expect(of(told, 'wrong-band')).toBe(0);
    expect(knownFindings(facts).map(({ test }) => test)).toEqual(['port', 'listen']);
    expect(knownFindings({ ...facts, decoded: 0 })).toEqual([]);
    expect(knownFindings({ ...facts, usualGapMs: 1000, silentMs: 60_000 })).toEqual([]);
    const port = { test: 'port', outcome: 'silence' } as const;
    expect(knownFindings({ ...facts, findings: [port] })[0]).toBe(port);
    expect(knownFindings({ ...facts, findings: [port] })).toHaveLength(2);
    expect(told.causes.length).toBeLessThanOrEqual(7);
    expect(told.causes.every(({ likely = 0 }) => likely >= 0.02)).toBe(true);
    expect(told.next).toBeDefined();
  });

  it('by hand: two causes with their weights and a finding', () => {
    const verdict = {
      title: '',
      body: '',
      causes: [
        { cause: 'a', test: '', weight: 3, outlook: { lamp: { dark: 0.95 } } },
        { cause: 'b', test: '', weight: 2, outlook: {} },
      ],
    };
    // 3 × 0.95 against 2 × 0.04 / 4.
    const b = (2 * 0.04) / 4;
    expect(weigh(verdict, FACTS, [{ test: 'lamp', outcome: 'dark' }])).toMatchObject({
      causes: [{ cause: 'a', likely: expect.closeTo((3 * 0.95) / (3 * 0.95 + b), 9) as number }],
    });
    // Of a lump each may be it: the mean of their chances.
    const lump = [{ cause: 'l', test: '', weight: 1, faults: ['vox-slow', 'plug'] as const }];
    const other = [{ cause: 'o', test: '', weight: 1, outlook: {} }];
    const [both] = weigh({ ...verdict, causes: [...lump, ...other] }, FACTS, [
      { test: 'lamp', outcome: 'lit late' },
    ]).causes;
    const mean = (0.85 + 0.04 / 4) / 2;
    expect(both).toMatchObject({ cause: 'l', likely: expect.closeTo(mean / (mean + 0.04 / 4), 9) as number });
  });

  it('one that holds several in one goes once something was tried', () => {
    const [verdict, facts] = verdictAt('nothing is decoded');
    const before = weigh(verdict, facts);
    expect(first(before)).toMatch(/^Nothing comes out of the receiver/);
    expect(before.causes[0]?.likely).toBeUndefined();
    expect(before.causes[1]?.likely).toBeGreaterThan(0.1);
    const after = weigh(verdict, facts, [{ test: 'listen', outcome: 'only noise' }]);
    expect(after.causes.some(({ cause }) => cause.startsWith('Nothing comes out'))).toBe(false);
    expect(first(after)).toMatch(/another frequency or band/);
    expect(after.next).not.toBe('listen');
  });

  it('what the operator has tried counts before what is known', () => {
    const [verdict, facts] = verdictAt('nothing is decoded');
    const known = { ...facts, findings: [{ test: 'apps', outcome: 'one holds it' } as const] };
    expect(of(weigh(verdict, known), 'held')).toBeGreaterThan(0.3);
    expect(of(weigh(verdict, known, [{ test: 'apps', outcome: 'none' }]), 'held')).toBeLessThan(0.02);
  });

  it('a call that nobody answered brings causes; an answer brings none', () => {
    const [verdict, facts] = verdictAt('the gateway does not answer');
    expect(first(weigh(verdict, facts))).toMatch(/gateway/);
    const answered = { ...FACTS, findings: [{ test: 'call', outcome: 'it answers and serves' } as const] };
    const standing = { isOpen: true, next: 'far station answered', isDoubtful: false } as const;
    expect(weigh(verdictOn(standing, answered) as Verdict, answered).causes).toEqual([]);
  });

  it('only what the chain has can be wrong with it', () => {
    const [verdict, facts] = verdictAt('it is never repeated');
    const with_ = (known: Partial<ChainFacts>): Weighing => weigh(verdict, { ...facts, ...known });
    const chain = { hasInternetWay: true, hasRadioControl: true };
    expect(of(with_({ chain: { ...chain, keying: 'VOX' } }), 'vox-slow')).toBeGreaterThan(0.02);
    expect(of(with_({ chain: { ...chain, keying: 'VOX' } }), 'keying-tone')).toBe(0);
    expect(of(with_({ chain: { ...chain, keying: 'steady tone' } }), 'vox-slow')).toBe(0);
    expect(of(with_({ chain: { ...chain, keying: 'steady tone' } }), 'keying-tone')).toBeGreaterThan(0.01);
    const [unfound, silent] = verdictAt('the app does not find the TNC');
    const causes = (known: Partial<ChainFacts>): string =>
      weigh(unfound, { ...silent, ...known })
        .causes.map(({ cause }) => cause)
        .join();
    expect(causes({})).toContain(FAULTS['kiss-off'].name);
    expect(causes({ linkKind: 'sound' })).not.toContain(FAULTS['kiss-off'].name);
    expect(causes({ linkKind: 'sound' })).not.toContain(FAULTS['wrong-port'].name);
    const [deaf, none] = verdictAt('nothing is decoded');
    expect(of(weigh(deaf, none), 'kiss-off')).toBeGreaterThan(0.02);
    expect(of(weigh(deaf, { ...none, talksKiss: true }), 'kiss-off')).toBe(0);
    const moved = [{ area: 'link', of: 'x', name: 'Port', suspicion: 8 } as const];
    expect(of(weigh(deaf, none, [], moved), 'wrong-port')).toBeGreaterThan(0.02);
    expect(of(weigh(deaf, { ...none, talksKiss: true }, [], moved), 'wrong-port')).toBe(0);
    const [refused, called] = verdictAt('the gateway does not answer');
    expect(of(weigh(refused, called), 'radio-control')).toBeGreaterThan(0.02);
    const without = { ...called, chain: { hasInternetWay: false, hasRadioControl: false } };
    expect(of(weigh(refused, without), 'radio-control')).toBe(0);
  });

  it('what tells nothing is no next test', () => {
    const one = { title: '', body: '', causes: [{ cause: 'a', test: '', weight: 1, outlook: {} }] };
    expect(weigh(one, FACTS)).toEqual({ causes: [{ cause: 'a', test: '', faults: [], likely: 1 }] });
  });
});

describe('it worked yesterday', () => {
  const change = (area: Area, name: string, suspicion = 9) => ({ area, of: 'x', name, suspicion });

  it.each([
    ['switch', 'Squelch', 'squelch'],
    ['sheet', 'VOX delay', 'vox-slow'],
    ['switch', 'Packet mode', 'kiss-off'],
    ['channel', 'Band of the TNC', 'kiss-off'],
    ['channel', 'Frequency', 'wrong-band'],
    ['sheet', 'Volume', 'deaf'],
    ['link', 'Port', 'wrong-port'],
    ['beacon', 'Path', 'path'],
    ['sheet', 'Keying tone', 'keying-tone'],
    ['switch', 'Power', 'battery'],
    ['part', 'Cable', 'plug'],
    ['firmware', 'Radio', 'kiss-off'],
    ['identity', 'SSID', 'ssid'],
    ['place', 'Place', 'gateway-silent'],
  ] as [Area, string, FaultId][])('of %s, “%s” may have brought %s first', (area, name, fault) => {
    expect(broughtBy({ area, name })[0]).toBe(fault);
  });

  it('the most suspect change counts, once', () => {
    expect(
      factorsOf([change('switch', 'Squelch', 4), change('sheet', 'Squelch', 9), change('beacon', 'Path', 2)]),
    ).toEqual({ squelch: 10, path: 3 });
    expect(factorsOf([])).toEqual({});
  });

  it('a squelch that was turned comes first, of the list as of the table', () => {
    const [verdict, facts] = verdictAt('nothing is decoded');
    expect(weigh(verdict, facts, [], [change('switch', 'Squelch')]).causes[1]?.cause).toMatch(/squelch/);
    const [never, doubtful] = verdictAt('it is never repeated');
    const chain = { keying: 'VOX' as const, hasInternetWay: false, hasRadioControl: false };
    expect(first(weigh(never, { ...doubtful, chain }, [], [change('sheet', 'VOX')]))).toBe(
      `${FAULTS['vox-slow'].name}.`,
    );
  });

  const TEST_OF: TestId = 'listen';
  it('a test that was made outweighs a suspicion', () => {
    const [verdict, facts] = verdictAt('nothing is decoded');
    const heard = [
      { test: TEST_OF, outcome: 'only noise' },
      { test: 'sheet' as const, outcome: 'the band differs' },
    ];
    expect(first(weigh(verdict, facts, heard, [change('switch', 'Squelch')]))).toMatch(/band/);
  });
});
