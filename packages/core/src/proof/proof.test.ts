import fc from 'fast-check';
import type { Evidence, Rung } from './evidence.js';
import { climb, nextRung, PURPOSES, type Camp, type Purpose, type Situation } from './ladder.js';

const MINUTE = 60_000;
const FIXED = { isOpen: true, isMoving: false };

const seen = (rung: Rung, atMs: number): Evidence => ({
  id: `${rung} ${atMs}`,
  linkId: 'l',
  rung,
  atMs,
  kind: 'frame',
  words: rung,
});
const states = (evidence: readonly Evidence[], nowMs: number, situation = FIXED): string[] =>
  climb('beacon', evidence, situation, nowMs).map(({ state }) => state);

const HEARD = [seen('port open', 0), seen('TNC talks', 0), seen('packet decoded', 0)];

it('a session climbs over its answer to text both ways, and each proves what it presupposes', () => {
  const lit = (rung: Rung): Rung[] =>
    climb('session', [seen('port open', 0), seen(rung, 1000)], FIXED, MINUTE)
      .filter(({ state }) => state === 'lit')
      .map((camp) => camp.rung);
  expect(climb('session', [], FIXED, 0).map((camp) => camp.rung)).toEqual([
    'port open',
    'TNC talks',
    'packet decoded',
    'handed to the TNC',
    'keyed',
    'far station answered',
    'data both ways',
  ]);
  expect(lit('far station answered')).toHaveLength(6);
  expect(lit('data both ways')).toHaveLength(7);
});

describe('the climb of a beacon', () => {
  it.each([
    ['nothing happened', [], 0, ['dark', 'dark', 'dark', 'dark', 'dark', 'dark']],
    ['a packet was heard', HEARD, MINUTE, ['lit', 'lit', 'lit', 'dark', 'dark', 'dark']],
    ['ten minutes of silence', HEARD, 10 * MINUTE, ['lit', 'faded', 'faded', 'dark', 'dark', 'dark']],
    [
      'just handed over',
      [...HEARD, seen('handed to the TNC', 1000)],
      2000,
      ['lit', 'lit', 'lit', 'lit', 'dark', 'dark'],
    ],
    [
      'no echo for 30 s',
      [...HEARD, seen('handed to the TNC', 1000)],
      31_000,
      ['lit', 'lit', 'lit', 'faded', 'doubtful', 'dark'],
    ],
    [
      'an echo proves all below it',
      [seen('port open', 0), seen('handed to the TNC', 1000), seen('repeated', 3000)],
      MINUTE,
      ['lit', 'lit', 'lit', 'lit', 'lit', 'lit'],
    ],
    [
      'a later attempt without echo is doubtful, the old echo still stands for repeated',
      [
        seen('port open', 0),
        seen('handed to the TNC', 1000),
        seen('repeated', 3000),
        seen('handed to the TNC', MINUTE),
      ],
      2 * MINUTE,
      ['lit', 'lit', 'lit', 'lit', 'doubtful', 'lit'],
    ],
  ] as [string, Evidence[], number, string[]][])('%s', (_, evidence, nowMs, expected) => {
    expect(states(evidence, nowMs)).toEqual(expected);
  });

  it('tells how fresh each camp is, from 1 to 0; a dark one has nothing', () => {
    const camps = climb('beacon', HEARD, FIXED, 5 * MINUTE);
    expect(camps.map(({ freshness }) => freshness)).toEqual([1, 0.5, 0.5, 0, 0, 0]);
  });

  it('a level stands for a day, where sound passes, until something spoils it', () => {
    const level = (kind: Evidence['kind'], atMs: number): Evidence => ({
      ...seen('level in the window', atMs),
      kind,
    });
    const state = (evidence: readonly Evidence[], nowMs: number, isSound = true): string | undefined =>
      climb('beacon', evidence, { ...FIXED, isSound }, nowMs).find(
        ({ rung }) => rung === 'level in the window',
      )?.state;
    const day = 24 * 60 * MINUTE;
    expect(state([level('measurement', 0)], day - 1)).toBe('lit');
    expect(state([level('measurement', 0)], day)).toBe('faded');
    expect(state([level('measurement', 0)], 1, false)).toBeUndefined();
    expect(state([level('measurement', 0), level('spoilt', 5)], 4)).toBe('lit');
    expect(state([level('measurement', 0), level('spoilt', 5)], 5)).toBe('doubtful');
    expect(state([level('measurement', 0), level('spoilt', 5), level('measurement', 6)], 7)).toBe('lit');
    expect(state([level('spoilt', 5), level('measurement', 5)], 7)).toBe('doubtful');
  });

  it('takes no notice of what is said to have happened after now: a clock was set back', () => {
    const future = HEARD.map((one) => ({ ...one, atMs: 10 * MINUTE }));
    expect(states([seen('port open', 0), ...future], MINUTE)).toEqual([
      'lit',
      'dark',
      'dark',
      'dark',
      'dark',
      'dark',
    ]);
    const handed = [...HEARD, seen('handed to the TNC', 1000)];
    const before = states(handed, MINUTE);
    expect(states([...handed, seen('repeated', 2 * MINUTE)], MINUTE)).toEqual(before);
    expect(states([...handed, seen('handed to the TNC', 2 * MINUTE)], MINUTE)).toEqual(before);
  });

  it('an echo fades after 24 h at a fixed place, after 30 min on the move', () => {
    const echo = [seen('repeated', 0)];
    const at = (hours: number, isMoving: boolean): string | undefined =>
      states(echo, hours * 60 * MINUTE, { isOpen: true, isMoving }).at(-1);
    expect([at(0.4, true), at(0.6, true), at(23, false), at(25, false)]).toEqual([
      'lit',
      'faded',
      'lit',
      'faded',
    ]);
  });

  it('a port that closed is no longer proved', () => {
    expect(states(HEARD, 1000, { isOpen: false, isMoving: false })[0]).toBe('faded');
  });

  it('the next rung is the first that does not stand', () => {
    const next = (evidence: Evidence[], nowMs: number): Rung | undefined =>
      nextRung(climb('beacon', evidence, FIXED, nowMs))?.rung;
    expect(next([], 0)).toBe('port open');
    expect(next(HEARD, 1)).toBe('handed to the TNC');
    expect(next([seen('port open', 0), seen('repeated', 0)], 1)).toBeUndefined();
  });
});

describe('what a rung proves', () => {
  const HOUR = 60 * MINUTE;
  const state = (
    rung: Rung,
    evidence: readonly Evidence[],
    nowMs: number,
    situation: Situation = FIXED,
    purpose: Purpose = 'mail',
  ): string | undefined =>
    climb(purpose, evidence, { ...situation, endsElsewhere: situation.endsElsewhere ?? false }, nowMs).find(
      (camp) => camp.rung === rung,
    )?.state;
  /** Chains that end elsewhere show every rung of their purpose. */
  const ELSEWHERE = { ...FIXED, endsElsewhere: true };

  it('the transmit lamp that the operator saw says nothing about hearing', () => {
    const tick: Evidence = { ...seen('keyed', 0), kind: 'tick' };
    const all = climb('beacon', [tick], FIXED, MINUTE);
    expect(all.filter((camp) => camp.state === 'lit').map(({ rung }) => rung)).toEqual(['keyed']);
  });

  it('our own frame heard back says all of it', () => {
    const all = climb('beacon', [seen('port open', 0), seen('keyed', 0)], FIXED, MINUTE);
    expect(all.map((camp) => camp.state)).toEqual(['lit', 'lit', 'lit', 'lit', 'lit', 'dark']);
  });

  it.each<[Rung, Rung, number, string]>([
    // received → data both ways → answered → keyed, handed, decoded, talks: each for its own life
    ['mail received', 'data both ways', 0, 'lit'],
    ['mail received', 'logged in to mail', 0, 'dark'],
    ['mail sent', 'logged in to mail', 0, 'dark'],
    ['self-test answered', 'logged in to mail', 6 * 24 * HOUR, 'lit'],
    ['self-test answered', 'mail sent', 6 * 24 * HOUR, 'lit'],
    ['mail received', 'data both ways', 23 * HOUR, 'lit'],
    ['mail received', 'data both ways', 25 * HOUR, 'faded'],
    ['mail received', 'keyed', 59 * MINUTE, 'lit'],
    ['mail received', 'keyed', 61 * MINUTE, 'faded'],
    ['mail received', 'handed to the TNC', 59 * MINUTE, 'lit'],
    ['mail received', 'handed to the TNC', 61 * MINUTE, 'faded'],
    ['mail received', 'packet decoded', 9 * MINUTE, 'lit'],
    ['mail received', 'packet decoded', 11 * MINUTE, 'faded'],
    ['mail received', 'TNC talks', 9 * MINUTE, 'lit'],
    ['mail received', 'mail sent', MINUTE, 'dark'],
    ['self-test answered', 'mail sent', MINUTE, 'lit'],
    ['self-test answered', 'mail received', MINUTE, 'lit'],
    ['far station answered', 'keyed', MINUTE, 'lit'],
    ['far station answered', 'data both ways', MINUTE, 'dark'],
  ])('%s lights %s after %i ms: %s', (proof, rung, nowMs, expected) =>
    expect(state(rung, [seen(proof, 0)], nowMs, ELSEWHERE)).toBe(expected),
  );

  it('an echo that is older than a packet’s life does not keep “decoded” lit', () => {
    expect(state('packet decoded', [seen('repeated', 0)], 11 * MINUTE, FIXED, 'beacon')).toBe('faded');
    expect(state('repeated', [seen('repeated', 0)], 11 * MINUTE, FIXED, 'beacon')).toBe('lit');
  });

  it.each<Rung>([
    'keyed',
    'repeated',
    'at a gateway',
    'message acknowledged',
    'far station answered',
    'mail received',
  ])('%s ends the doubt about keying', (rung) => {
    const handed = seen('handed to the TNC', 1000);
    expect(state('keyed', [handed], 31_000, ELSEWHERE)).toBe('doubtful');
    expect(state('keyed', [handed, seen(rung, 2000)], 31_000, ELSEWHERE)).toBe('lit');
  });

  it('an acknowledgement proves neither keyed nor repeated while it may have come by the internet', () => {
    const acknowledged = [seen('handed to the TNC', 1000), seen('message acknowledged', 2000)];
    const online = { ...ELSEWHERE, hasInternetWay: true };
    expect(state('keyed', acknowledged, 31_000, online, 'messages')).toBe('doubtful');
    expect(state('repeated', acknowledged, 31_000, online, 'messages')).toBe('dark');
    expect(state('message acknowledged', acknowledged, 31_000, online, 'messages')).toBe('lit');
    expect(state('keyed', acknowledged, 31_000, ELSEWHERE, 'messages')).toBe('lit');
    expect(state('repeated', acknowledged, 31_000, ELSEWHERE, 'messages')).toBe('dark');
  });

  it('what was heard before this opening says nothing of TNC and receiver now; an echo stays one', () => {
    const openedAtMs = 5 * MINUTE;
    const before = [...HEARD, seen('repeated', MINUTE)];
    const now = (evidence: readonly Evidence[]): string[] =>
      climb('beacon', evidence, { ...FIXED, openedAtMs }, 6 * MINUTE).map((camp) => camp.state);
    expect(now(before)).toEqual(['lit', 'dark', 'dark', 'lit', 'lit', 'lit']);
    expect(now([...before, seen('packet decoded', openedAtMs)])).toEqual([
      'lit',
      'lit',
      'lit',
      'lit',
      'lit',
      'lit',
    ]);
  });
});

describe('any evidence', () => {
  const rung = fc.constantFrom(...PURPOSES.beacon.rungs);
  const evidence = fc.array(
    fc.tuple(rung, fc.nat(100 * MINUTE)).map(([name, atMs]) => seen(name, atMs)),
    { maxLength: 20 },
  );

  it('lights only by evidence, and only fades with time', () => {
    fc.assert(
      fc.property(
        evidence,
        fc.constantFrom<Purpose>('receive', 'beacon'),
        fc.nat(30 * 60 * MINUTE),
        (all, purpose, laterMs) => {
          const nowMs = 100 * MINUTE;
          const before = climb(purpose, all, FIXED, nowMs);
          const after = climb(purpose, all, FIXED, nowMs + laterMs);
          before.forEach((camp: Camp, i) => {
            if (camp.state === 'lit') expect(camp.evidence).toBeDefined();
            expect(after[i]?.freshness).toBeLessThanOrEqual(camp.freshness);
          });
        },
      ),
    );
  });
});
