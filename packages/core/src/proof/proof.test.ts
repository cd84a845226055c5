import fc from 'fast-check';
import type { Evidence, Rung } from './evidence.js';
import { climb, nextRung, PURPOSES, type Camp, type Purpose } from './ladder.js';

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
