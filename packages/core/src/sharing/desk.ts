import type { KissFrame, KissValueCommand } from '../kiss/commands.js';

/**
 * One TNC for many programs: whose frame is next.
 *
 *   joined · left · allowed         who is there, and who may transmit
 *   asked (a frame of a client)  →  waiting  →  hand, one at a time  →  done
 *
 * Clients take turns, however much one of them sends. Parameters are noted and go no further: the operator sets them.
 * SetHardware and "return" never reach the TNC, since they could end KISS for all.
 */
export interface Desk {
  /** In the order of their turns. */
  readonly clients: readonly Client[];
  /** Whose frame is with the TNC now. */
  readonly busyFor?: string;
}

export interface Client {
  readonly id: string;
  readonly mayTransmit: boolean;
  readonly waiting: readonly WaitingFrame[];
  readonly handed: number;
  readonly refused: Readonly<Partial<Record<Refusal, number>>>;
  /** The last value of each parameter that it asked for, as KISS carries it. */
  readonly asked: Readonly<Partial<Record<KissValueCommand, number>>>;
}

export interface WaitingFrame {
  readonly port: number;
  readonly raw: Uint8Array;
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
  /** The frame that was with the TNC has been handed over, or was refused. */
  | { readonly kind: 'done'; readonly refusal?: Refusal };

export interface HandEffect extends WaitingFrame {
  readonly kind: 'hand';
  readonly client: string;
}

/** Of one client. Eight frames of usual size are half a minute of air time at 1200 Bd. */
export const MOST_WAITING = 8;

export const EMPTY_DESK: Desk = { clients: [] };

export function step(desk: Desk, event: DeskEvent): [Desk, readonly HandEffect[]] {
  switch (event.kind) {
    case 'joined':
      return [{ ...desk, clients: [...desk.clients, newClient(event.client, event.mayTransmit)] }, []];
    case 'left':
      return [{ ...desk, clients: desk.clients.filter(({ id }) => id !== event.client) }, []];
    case 'allowed':
      return [change(desk, event.client, (client) => allow(client, event.mayTransmit)), []];
    case 'garbled':
      return [change(desk, event.client, (client) => refuse(client, 'not KISS')), []];
    case 'asked':
      return handNext(change(desk, event.client, (client) => take(client, event.frame)));
    case 'done':
      return handNext(finish(desk, event.refusal));
  }
}

const newClient = (id: string, mayTransmit: boolean): Client => ({
  id,
  mayTransmit,
  waiting: [],
  handed: 0,
  refused: {},
  asked: {},
});

function change(desk: Desk, id: string, to: (client: Client) => Client): Desk {
  return { ...desk, clients: desk.clients.map((client) => (client.id === id ? to(client) : client)) };
}

function refuse(client: Client, refusal: Refusal, times = 1): Client {
  return { ...client, refused: { ...client.refused, [refusal]: (client.refused[refusal] ?? 0) + times } };
}

/** Who may no longer transmit loses what was waiting. */
function allow(client: Client, mayTransmit: boolean): Client {
  const { waiting } = client;
  if (mayTransmit || waiting.length === 0) return { ...client, mayTransmit };
  return refuse({ ...client, mayTransmit, waiting: [] }, 'receive-only', waiting.length);
}

function take(client: Client, frame: KissFrame): Client {
  if (frame.command === 'return' || frame.command === 'sethardware') return refuse(client, 'not for the TNC');
  if ('value' in frame) return { ...client, asked: { ...client.asked, [frame.command]: frame.value } };
  if (!client.mayTransmit) return refuse(client, 'receive-only');
  if (client.waiting.length >= MOST_WAITING) return refuse(client, 'too many waiting');
  return { ...client, waiting: [...client.waiting, { port: frame.port, raw: frame.payload }] };
}

function finish({ clients, busyFor }: Desk, refusal: Refusal | undefined): Desk {
  if (busyFor === undefined) return { clients };
  return change({ clients }, busyFor, (client) =>
    refusal ? refuse(client, refusal) : { ...client, handed: client.handed + 1 },
  );
}

/** The first in turn that has something waiting; it goes to the end of the line. */
function handNext(desk: Desk): [Desk, readonly HandEffect[]] {
  if (desk.busyFor !== undefined) return [desk, []];
  const next = desk.clients.find(({ waiting }) => waiting.length > 0);
  const [frame, ...rest] = next?.waiting ?? [];
  if (!next || !frame) return [desk, []];
  const others = desk.clients.filter(({ id }) => id !== next.id);
  return [
    { clients: [...others, { ...next, waiting: rest }], busyFor: next.id },
    [{ kind: 'hand', client: next.id, ...frame }],
  ];
}
