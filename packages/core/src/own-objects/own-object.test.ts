import { parseAprs } from '../aprs/parse.js';
import { fromLatin1 } from '../bits/octets.js';
import {
  objectInfo,
  ownObjectStep,
  TOLD_GONE,
  type OwnObject,
  type OwnObjectEffect,
  type OwnObjectEvent,
} from './own-object.js';

const MINUTE = 60_000;
const CONTEXT = { atMs: 0, dice: 0, everyMs: 10 * MINUTE };
const run = (
  first: OwnObject,
  ...events: OwnObjectEvent[]
): { object: OwnObject; effects: readonly OwnObjectEffect[] } => {
  let object = first;
  let effects: readonly OwnObjectEffect[] = [];
  for (const event of events) [object, effects] = ownObjectStep(object, event, CONTEXT);
  return { object, effects };
};
const QUIET: OwnObject = { phase: 'quiet' };
const timer = { kind: 'timer', timer: 'due' } as const;

it('is told at once, then after growing waits up to its own interval', () => {
  let { object, effects } = run(QUIET, { kind: 'put' });
  expect(effects).toContainEqual({ kind: 'send', live: true });
  const waits: number[] = [];
  for (let i = 0; i < 7; i++) {
    [object, effects] = ownObjectStep(object, { kind: 'sent' }, CONTEXT);
    waits.push((effects[0] as { ms: number }).ms / MINUTE);
    [object, effects] = ownObjectStep(object, timer, CONTEXT);
    expect(effects).toEqual([
      { kind: 'stop', timer: 'due' },
      { kind: 'send', live: true },
    ]);
  }
  expect(waits).toEqual([1, 2, 4, 8, 10, 10, 10]);
});

it('what is put again is news again', () => {
  const { object } = run(QUIET, { kind: 'put' }, { kind: 'sent' }, { kind: 'sent' }, { kind: 'put' });
  expect(object).toEqual({ phase: 'told', times: 0 });
});

it('what cannot leave is tried again, without a longer wait', () => {
  const { object, effects } = run(QUIET, { kind: 'put' }, { kind: 'failed' });
  expect(object).toEqual({ phase: 'told', times: 0, isHeld: true });
  expect(effects).toEqual([{ kind: 'start', timer: 'due', ms: 30_000 }]);
  const opened = run(object, { kind: 'open' });
  expect(opened.effects).toContainEqual({ kind: 'send', live: true });
  expect(opened.object).toEqual({ phase: 'told', times: 0 });
});

it('a lock that opens once more lets nothing out that was not held', () => {
  const { object } = run(QUIET, { kind: 'put' }, { kind: 'sent' });
  expect(run(object, { kind: 'open' })).toEqual({ object, effects: [] });
  expect(run({ phase: 'gone' }, { kind: 'open' }).effects).toEqual([]);
});

it('killed it is told three times that it is gone, then no more', () => {
  let { object, effects } = run(QUIET, { kind: 'put' }, { kind: 'sent' }, { kind: 'kill' });
  let times = 0;
  while (object.phase === 'leaving') {
    expect(effects).toContainEqual({ kind: 'send', live: false });
    times++;
    [object, effects] = ownObjectStep(object, { kind: 'sent' }, CONTEXT);
    if (object.phase === 'leaving') [object, effects] = ownObjectStep(object, timer, CONTEXT);
  }
  expect([times, object.phase]).toEqual([TOLD_GONE, 'gone']);
  expect(run(object, timer, { kind: 'sent' }, { kind: 'failed' }).effects).toEqual([]);
});

it('a second kill begins nothing anew, and what nobody heard of goes without a word', () => {
  const leaving: OwnObject = { phase: 'leaving', times: 1 };
  expect(run(leaving, { kind: 'kill' })).toEqual({ object: leaving, effects: [] });
  for (const phase of ['quiet', 'gone'] as const)
    expect(run({ phase }, { kind: 'kill' }).object.phase).toBe('gone');
  expect(run({ phase: 'taken', by: 'QH7CTA' }, { kind: 'kill' }).object.phase).toBe('gone');
});

it('whoever tells it from now on has taken it over; we fall silent until it is put again', () => {
  const taken = run(QUIET, { kind: 'put' }, { kind: 'sent' }, { kind: 'heard', from: 'QH7CTA-9' });
  expect(taken).toEqual({
    object: { phase: 'taken', by: 'QH7CTA-9' },
    effects: [{ kind: 'stop', timer: 'due' }],
  });
  expect(run(taken.object, timer, { kind: 'sent' }, { kind: 'failed' }).effects).toEqual([]);
  expect(run(taken.object, { kind: 'put' }).object.phase).toBe('told');
  expect(run({ phase: 'leaving', times: 0 }, { kind: 'heard', from: 'X' }).object.phase).toBe('taken');
  for (const phase of ['quiet', 'gone'] as const)
    expect(run({ phase }, { kind: 'heard', from: 'X' }).object.phase).toBe(phase);
});

it.each(['object', 'item'] as const)('the report of an %s is read back as it is', (kind) => {
  const facts = {
    kind,
    name: 'Soup',
    position: { latitudeDeg: -29.6, longitudeDeg: -11.4 },
    symbol: { table: '\\', code: 'R' },
    comment: 'until seven',
    everyMs: 0,
  };
  for (const live of [true, false]) {
    const report = parseAprs(fromLatin1(objectInfo(facts, live, Date.UTC(2026, 3, 18, 15, 30))), 'APZMPK');
    expect(report).toMatchObject({
      type: kind,
      object: { name: 'Soup', live },
      comment: 'until seven',
      symbol: facts.symbol,
      ...(kind === 'object' ? { timestamp: { day: 18, hour: 15, minute: 30 } } : {}),
    });
    expect(report.latitudeDeg).toBeCloseTo(-29.6, 3);
  }
});
