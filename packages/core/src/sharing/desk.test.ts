import fc from 'fast-check';
import type { KissFrame } from '../kiss/commands.js';
import { EMPTY_DESK, MOST_WAITING, step, type Client, type Desk, type DeskEvent } from './desk.js';

const data = (octet: number): KissFrame => ({
  port: 0,
  command: 'data',
  payload: Uint8Array.of(octet),
});

/** Runs events; what was handed over, as `client octet`. */
function run(events: readonly DeskEvent[], from: Desk = EMPTY_DESK): { desk: Desk; handed: string[] } {
  let desk = from;
  const handed: string[] = [];
  for (const event of events) {
    const [next, effects] = step(desk, event);
    desk = next;
    handed.push(...effects.map(({ client, raw }) => `${client} ${raw[0]}`));
  }
  return { desk, handed };
}

const joined = (client: string, mayTransmit = true): DeskEvent => ({ kind: 'joined', client, mayTransmit });
const asked = (client: string, frame: KissFrame): DeskEvent => ({ kind: 'asked', client, frame });
const done: DeskEvent = { kind: 'done' };
const clientOf = ({ clients }: Desk, id: string): Client | undefined => clients.find((one) => one.id === id);

describe('the desk', () => {
  it('hands over one frame at a time, and clients take turns whatever one of them sends', () => {
    const flood = [1, 2, 3, 4, 5].map((octet) => asked('flood', data(octet)));
    const { handed } = run([
      joined('flood'),
      joined('calm'),
      ...flood,
      asked('calm', data(9)),
      done,
      done,
      done,
    ]);
    expect(handed).toEqual(['flood 1', 'calm 9', 'flood 2', 'flood 3']);
  });

  it('refuses what is more than a client may have waiting', () => {
    const many = Array.from({ length: MOST_WAITING + 4 }, (_, i) => asked('a', data(i)));
    const { desk } = run([joined('a'), ...many]);
    // One of them is with the TNC.
    expect(clientOf(desk, 'a')).toMatchObject({ refused: { 'too many waiting': 3 } });
    expect(clientOf(desk, 'a')?.waiting).toHaveLength(MOST_WAITING);
  });

  it('notes parameters and hands none of them on, nor SetHardware, nor the end of KISS', () => {
    const { desk, handed } = run([
      joined('a'),
      asked('a', { port: 0, command: 'txdelay', value: 40 }),
      asked('a', { port: 0, command: 'txdelay', value: 50 }),
      asked('a', { port: 0, command: 'sethardware', payload: Uint8Array.of(1) }),
      asked('a', { command: 'return' }),
      { kind: 'garbled', client: 'a' },
    ]);
    expect(handed).toEqual([]);
    expect(clientOf(desk, 'a')).toMatchObject({
      asked: { txdelay: 50 },
      refused: { 'not for the TNC': 2, 'not KISS': 1 },
    });
  });

  it('takes no frame from a client that only receives, and drops what waited when the right is taken', () => {
    const { desk, handed } = run([
      joined('a', false),
      asked('a', data(1)),
      { kind: 'allowed', client: 'a', mayTransmit: true },
      asked('a', data(2)),
      asked('a', data(3)),
      { kind: 'allowed', client: 'a', mayTransmit: false },
      done,
    ]);
    expect(handed).toEqual(['a 2']);
    expect(clientOf(desk, 'a')).toMatchObject({ handed: 1, refused: { 'receive-only': 2 }, waiting: [] });
  });

  it('counts a refusal of the transmitter, and goes on when a client leaves with its frame under way', () => {
    const { desk, handed } = run([
      joined('a'),
      joined('b'),
      asked('a', data(1)),
      asked('b', data(2)),
      { kind: 'left', client: 'a' },
      { kind: 'done', refusal: 'transmitter locked' },
      { kind: 'done', refusal: 'transmitter locked' },
    ]);
    expect(handed).toEqual(['a 1', 'b 2']);
    expect(desk).toMatchObject({ clients: [{ id: 'b', refused: { 'transmitter locked': 1 } }] });
    expect(desk.busyFor).toBeUndefined();
  });
});

/** Any order of events by a few clients; `done` comes only when something is under way. */
const happenings = fc.array(
  fc.record({
    client: fc.constantFrom('a', 'b', 'c'),
    what: fc.constantFrom('join', 'leave', 'send', 'send', 'send', 'forbid', 'allow', 'done', 'done'),
  }),
  { maxLength: 200 },
);

describe('any order of events', () => {
  it('sends nothing twice, keeps each client’s order and nobody out for more than a round', () => {
    fc.assert(
      fc.property(happenings, (steps) => {
        let desk = EMPTY_DESK;
        const sent = new Map<string, number[]>();
        const handed = new Map<string, number[]>();
        const passedOver = new Map<string, number>();
        let octet = 0;
        for (const { client, what } of steps) {
          const isThere = clientOf(desk, client) !== undefined;
          if ((what === 'join') === isThere || (what === 'done' && desk.busyFor === undefined)) continue;
          if (what === 'leave') passedOver.delete(client);
          if (what === 'send') sent.set(client, [...(sent.get(client) ?? []), ++octet]);
          const event: DeskEvent =
            what === 'join'
              ? joined(client)
              : what === 'leave'
                ? { kind: 'left', client }
                : what === 'send'
                  ? asked(client, data(octet % 256))
                  : what === 'done'
                    ? done
                    : { kind: 'allowed', client, mayTransmit: what === 'allow' };
          const waitingBefore = desk.clients.filter(({ waiting }) => waiting.length > 0).map(({ id }) => id);
          const [next, effects] = step(desk, event);
          expect(effects.length).toBeLessThanOrEqual(1);
          for (const effect of effects) {
            expect(desk.busyFor === undefined || event.kind === 'done').toBe(true);
            handed.set(effect.client, [...(handed.get(effect.client) ?? []), effect.raw[0] as number]);
            for (const id of waitingBefore)
              passedOver.set(id, id === effect.client ? 0 : (passedOver.get(id) ?? 0) + 1);
            expect(Math.max(0, ...passedOver.values())).toBeLessThan(3);
          }
          desk = next;
          for (const { id, waiting } of desk.clients) if (waiting.length === 0) passedOver.set(id, 0);
        }
        for (const [client, octets] of handed) {
          const all = (sent.get(client) ?? []).map((one) => one % 256);
          // In order: each is found behind the one before.
          let at = -1;
          for (const one of octets) expect((at = all.indexOf(one, at + 1))).toBeGreaterThanOrEqual(0);
        }
      }),
    );
  });
});
