import type { KissFrame, KissValueCommand, KissValueFrame } from '../kiss/commands.js';

import type { Stepped } from '../machine/machine.js';

/**
 * One TNC for many programs: who is there, and what of each goes on.
 *
 *   joined · left · allowed         who is there, and who may transmit
 *   asked (a frame of a client)  →  hand  →  done
 *
 * Whose frame goes out next is decided where all frames go out (`transmitting/way-out`): there clients take turns, however
 * much one of them sends. Parameters are noted and go no further: the operator sets them.
 * SetHardware and "return" never reach the TNC, since they could end KISS for all.
 */
export interface Desk {
  readonly clients: readonly Client[];
}

export interface Client {
  readonly id: string;
  readonly mayTransmit: boolean;
  /** Frames that were handed on and have not left. */
  readonly waiting: number;
  readonly handed: number;
  readonly refused: Readonly<Partial<Record<Refusal, number>>>;
  /** The last value of each parameter that it asked for, as KISS carries it. */
  readonly asked: Readonly<Partial<Record<KissValueCommand, number>>>;
}

export const REFUSALS = [
  'receive-only',
  'too many waiting',
  'transmitter locked',
  'not an own station',
  'not heard here',
  'demo call on a real link',
  'placeholder call',
  'link closed',
  'too long',
  'not AX.25',
  'not KISS',
  'not for the TNC',
  'failed',
] as const;
export type Refusal = (typeof REFUSALS)[number];

export type DeskEvent =
  | { readonly kind: 'joined'; readonly client: string; readonly mayTransmit: boolean }
  | { readonly kind: 'left'; readonly client: string }
  | { readonly kind: 'allowed'; readonly client: string; readonly mayTransmit: boolean }
  | { readonly kind: 'asked'; readonly client: string; readonly frame: KissFrame }
  | { readonly kind: 'garbled'; readonly client: string }
  /** A frame of this client has gone to the TNC, or was refused. */
  | { readonly kind: 'done'; readonly client: string; readonly refusal?: Refusal };

export interface HandEffect {
  readonly kind: 'hand';
  readonly client: string;
  readonly port: number;
  readonly raw: Uint8Array;
}

/** withdraw: what this client has waiting is not to go out. */
export type DeskEffect = HandEffect | { readonly kind: 'withdraw'; readonly client: string };

/** Of one client. Eight frames of usual size are half a minute of air time at 1200 Bd. */
export const MOST_WAITING = 8;

export const EMPTY_DESK: Desk = { clients: [] };

type Outcome = Stepped<Desk, DeskEffect>;

export function step(desk: Desk, event: DeskEvent): Outcome {
  switch (event.kind) {
    case 'joined':
      return [{ clients: [...desk.clients, newClient(event.client, event.mayTransmit)] }, []];
    case 'left':
      return [
        { clients: desk.clients.filter(({ id }) => id !== event.client) },
        [{ kind: 'withdraw', client: event.client }],
      ];
    case 'allowed':
      return allow(desk, event.client, event.mayTransmit);
    case 'garbled':
      return [change(desk, event.client, (client) => refuse(client, 'not KISS')), []];
    case 'asked':
      return take(desk, event.client, event.frame);
    case 'done':
      return [change(desk, event.client, (client) => finish(client, event.refusal)), []];
  }
}

const newClient = (id: string, mayTransmit: boolean): Client => ({
  id,
  mayTransmit,
  waiting: 0,
  handed: 0,
  refused: {},
  asked: {},
});

function change(desk: Desk, id: string, to: (client: Client) => Client): Desk {
  return { clients: desk.clients.map((client) => (client.id === id ? to(client) : client)) };
}

function refuse(client: Client, refusal: Refusal): Client {
  return { ...client, refused: { ...client.refused, [refusal]: (client.refused[refusal] ?? 0) + 1 } };
}

/** Who may no longer transmit loses what was waiting. */
function allow(desk: Desk, id: string, mayTransmit: boolean): Outcome {
  const changed = change(desk, id, (client) => ({ ...client, mayTransmit }));
  return [changed, mayTransmit ? [] : [{ kind: 'withdraw', client: id }]];
}

function take(desk: Desk, id: string, frame: KissFrame): Outcome {
  const client = desk.clients.find((one) => one.id === id);
  if (!client) return [desk, []];
  const refusal = refusalOf(client, frame);
  if (refusal) return [change(desk, id, (one) => refuse(one, refusal)), []];
  if ('value' in frame) return [change(desk, id, (one) => noteParameter(one, frame)), []];
  if (frame.command !== 'data') return [desk, []];
  const { port, payload: raw } = frame;
  return [
    change(desk, id, (one) => ({ ...one, waiting: one.waiting + 1 })),
    [{ kind: 'hand', client: id, port, raw }],
  ];
}

function refusalOf({ mayTransmit, waiting }: Client, frame: KissFrame): Refusal | undefined {
  if (frame.command === 'return' || frame.command === 'sethardware') return 'not for the TNC';
  if ('value' in frame) return undefined;
  if (!mayTransmit) return 'receive-only';
  return waiting >= MOST_WAITING ? 'too many waiting' : undefined;
}

const noteParameter = (client: Client, { command, value }: KissValueFrame): Client => ({
  ...client,
  asked: { ...client.asked, [command]: value },
});

function finish(client: Client, refusal: Refusal | undefined): Client {
  const left = { ...client, waiting: client.waiting - 1 };
  return refusal ? refuse(left, refusal) : { ...left, handed: left.handed + 1 };
}
