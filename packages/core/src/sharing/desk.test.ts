import fc from 'fast-check';
import type { KissFrame } from '../kiss/commands.js';
import { EMPTY_DESK, MOST_WAITING, step, type Client, type Desk, type DeskEvent } from './desk.js';

const data = (octet: number, port = 0): KissFrame => ({
  port,
  command: 'data',
  payload: Uint8Array.of(octet),
});

/** Runs events; what was asked of the way out, as `hand client octet` and `withdraw client`. */
function run(events: readonly DeskEvent[], from: Desk = EMPTY_DESK): { desk: Desk; told: string[] } {
  let desk = from;
  const told: string[] = [];
  for (const event of events) {
    const [next, effects] = step(desk, event);
    desk = next;
    for (const effect of effects)
      told.push(`${effect.kind} ${effect.client}${effect.kind === 'hand' ? ` ${effect.raw[0]}` : ''}`);
  }
  return { desk, told };
}

const joined = (client: string, mayTransmit = true): DeskEvent => ({ kind: 'joined', client, mayTransmit });
const asked = (client: string, frame: KissFrame): DeskEvent => ({ kind: 'asked', client, frame });
const allowed = (client: string, mayTransmit: boolean): DeskEvent => ({
  kind: 'allowed',
  client,
  mayTransmit,
});
const done = (client: string): DeskEvent => ({ kind: 'done', client });
const clientOf = ({ clients }: Desk, id: string): Client | undefined => clients.find((one) => one.id === id);

describe('the desk', () => {
  it('hands each frame on at once, with its port, and counts it when it has left', () => {
    const [desk, effects] = step(run([joined('a')]).desk, asked('a', data(7, 3)));
    expect(effects).toEqual([{ kind: 'hand', client: 'a', port: 3, raw: Uint8Array.of(7) }]);
    expect(clientOf(desk, 'a')).toMatchObject({ waiting: 1, handed: 0 });
    expect(clientOf(run([done('a')], desk).desk, 'a')).toMatchObject({ waiting: 0, handed: 1, refused: {} });
  });

  it('refuses what is more than a client may have waiting, and only of that client', () => {
    const many = Array.from({ length: MOST_WAITING + 3 }, (_, i) => asked('a', data(i)));
    const { desk, told } = run([joined('a'), joined('b'), ...many, asked('b', data(99))]);
    expect(clientOf(desk, 'a')).toMatchObject({ waiting: MOST_WAITING, refused: { 'too many waiting': 3 } });
    expect(told).toHaveLength(MOST_WAITING + 1);
    expect(run([done('a'), asked('a', data(50))], desk).told).toEqual(['hand a 50']);
  });

  it('notes parameters and hands none of them on, nor SetHardware, nor the end of KISS', () => {
    const { desk, told } = run([
      joined('a', false),
      asked('a', { port: 0, command: 'txdelay', value: 40 }),
      asked('a', { port: 0, command: 'txdelay', value: 50 }),
      asked('a', { port: 0, command: 'sethardware', payload: Uint8Array.of(1) }),
      asked('a', { command: 'return' }),
      { kind: 'garbled', client: 'a' },
    ]);
    expect(told).toEqual([]);
    expect(clientOf(desk, 'a')).toMatchObject({
      asked: { txdelay: 50 },
      refused: { 'not for the TNC': 2, 'not KISS': 1 },
    });
  });

  it('takes no frame from a client that only receives, and takes back what waits when the right is taken', () => {
    const { desk, told } = run([
      joined('a', false),
      asked('a', data(1)),
      allowed('a', true),
      asked('a', data(2)),
      allowed('a', false),
      asked('a', data(3)),
      { kind: 'done', client: 'a', refusal: 'receive-only' },
    ]);
    expect(told).toEqual(['hand a 2', 'withdraw a']);
    expect(clientOf(desk, 'a')).toMatchObject({ handed: 0, waiting: 0, refused: { 'receive-only': 3 } });
  });

  it('takes back what a client that left has waiting, and goes on without it', () => {
    const { desk, told } = run([
      joined('a'),
      joined('b'),
      asked('a', data(1)),
      { kind: 'left', client: 'a' },
      done('a'),
      asked('a', data(2)),
      asked('b', data(3)),
      { kind: 'done', client: 'b', refusal: 'transmitter locked' },
    ]);
    expect(told).toEqual(['hand a 1', 'withdraw a', 'hand b 3']);
    expect(desk.clients).toMatchObject([{ id: 'b', refused: { 'transmitter locked': 1 } }]);
  });
});

describe('any order of events', () => {
  const happenings = fc.array(
    fc.record({
      client: fc.constantFrom('a', 'b', 'c'),
      what: fc.constantFrom('join', 'leave', 'send', 'send', 'send', 'forbid', 'allow', 'done', 'done'),
    }),
    { maxLength: 200 },
  );

  it('accounts for every frame: waiting, handed or refused, and never more waiting than allowed', () => {
    fc.assert(
      fc.property(happenings, (steps) => {
        let desk = EMPTY_DESK;
        const sent = new Map<string, number>();
        for (const { client, what } of steps) {
          const there = clientOf(desk, client);
          if ((what === 'join') === (there !== undefined)) continue;
          if (what === 'done' && there?.waiting === 0) continue;
          if (what === 'join') sent.set(client, 0);
          if (what === 'send') sent.set(client, (sent.get(client) ?? 0) + 1);
          const event: DeskEvent =
            what === 'join'
              ? joined(client)
              : what === 'leave'
                ? { kind: 'left', client }
                : what === 'send'
                  ? asked(client, data(1))
                  : what === 'done'
                    ? done(client)
                    : allowed(client, what === 'allow');
          desk = step(desk, event)[0];
          for (const { id, waiting, handed, refused } of desk.clients) {
            const ended = handed + Object.values(refused).reduce((sum, times) => sum + times, 0);
            expect(waiting + ended).toBe(sent.get(id));
            expect(waiting).toBeLessThanOrEqual(MOST_WAITING);
          }
        }
      }),
    );
  });
});
