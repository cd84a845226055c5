import { decodeAddressField } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import {
  disconnectedSession,
  type SessionContext,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
} from '@mistpeak/core/sessions/session';
import { step } from '@mistpeak/core/sessions/step';
import { computedParameters, optionsOf } from '@mistpeak/core/throughput/session-parameters';
import type { Clock } from '@mistpeak/link/clock';
import { BAUD, type RadioChannel, type RadioSet } from '../radio-channel/radio-channel.js';

const LINK = { airRate: BAUD, txDelayMs: 300, txTailMs: 20, persistence: 0.25, slotTimeMs: 100 };

/** One conversation: what is said to it comes as whole lines; what it says goes out as they are. */
export interface Conversation {
  readonly connected?: () => void;
  /** Octets as they come, in the place of lines. */
  readonly data?: (octets: Uint8Array) => void;
  /** So many octets of what was said are acknowledged. */
  readonly confirmed?: (octets: number) => void;
  readonly line: (text: string) => void;
  readonly ended?: () => void;
}

export interface Line {
  readonly say: (...lines: string[]) => void;
  /** Text that waits for an answer behind it, without a line end. */
  readonly ask: (text: string) => void;
  readonly hangUp: () => void;
}

interface Open {
  readonly machine: Driven<SessionState, SessionEvent>;
  readonly conversation: Conversation;
  gathered: string;
  isLeaving: boolean;
  unconfirmed: number;
}

/** A set on the channel that speaks connected mode (core's sessions) with any number of others. */
export class ConnectedEnd {
  readonly set: RadioSet;
  private readonly open = new Map<string, Open>();

  constructor(
    private readonly channel: RadioChannel,
    private readonly clock: Clock,
    readonly call: string,
    /** Who calls is answered by this; undefined: calls are refused. */
    private readonly answer: ((caller: string, line: Line) => Conversation) | undefined,
    /** Else nobody is at it: it hears nobody. */
    private readonly isAttended = (): boolean => true,
  ) {
    this.set = { name: call, hear: (raw) => this.hear(raw) };
    channel.attach(this.set);
  }

  end(): void {
    for (const { machine } of this.open.values()) machine.end();
    this.open.clear();
    this.channel.detach(this.set);
  }

  isBusy(): boolean {
    return this.open.size > 0;
  }

  /** Calls somebody; the conversation is told when it is connected, and when it ends. */
  connect(
    peer: string,
    via: readonly string[],
    converse: (line: Line) => Conversation,
    retries: number,
  ): void {
    if (this.open.has(peer)) return;
    this.begin(peer, via, false, converse, retries).machine.dispatch({ kind: 'connect' });
  }

  private hear(raw: Uint8Array): void {
    if (!this.isAttended()) return;
    const field = decodeAddressField(raw);
    if (isMalformed(field) || field.destination !== this.call || !field.path.every(({ used }) => used))
      return;
    const { source, path } = field;
    const known = this.open.get(source);
    const { answer } = this;
    if (known) return known.machine.dispatch({ kind: 'heard', octets: raw });
    const via = path.map(({ call }) => call).reverse();
    const fresh = this.begin(
      source,
      via,
      answer !== undefined,
      (line) => answer?.(source, line) ?? { line: () => undefined },
    );
    fresh.machine.dispatch({ kind: 'heard', octets: raw });
    if (fresh.machine.state().phase === 'disconnected') this.forget(source);
  }

  private begin(
    peer: string,
    via: readonly string[],
    accepts: boolean,
    converse: (line: Line) => Conversation,
    retries?: number,
  ): Open {
    const usual = computedParameters(LINK, via.length);
    const parameters = { ...usual, retries: retries ?? usual.retries };
    const options = optionsOf({ own: this.call, peer, via, accepts }, parameters, LINK);
    const say = (text: string): void => {
      const octets = fromLatin1(text);
      one.unconfirmed += octets.length;
      one.machine.dispatch({ kind: 'send', octets });
    };
    const line: Line = {
      say: (...lines) => say(lines.map((each) => `${each}\r`).join('')),
      ask: say,
      hangUp: () => {
        one.isLeaving = true;
        this.leave(one);
      },
    };
    const machine = drive<SessionState, SessionEvent, SessionEffect, SessionContext>(
      step,
      disconnectedSession(options),
      {
        clock: this.clock,
        context: ({ atMs }) => ({ atMs, options }),
        perform: (effect) => this.perform(peer, effect),
      },
    );
    const one: Open = {
      machine,
      conversation: converse(line),
      gathered: '',
      isLeaving: false,
      unconfirmed: 0,
    };
    this.open.set(peer, one);
    return one;
  }

  private perform(peer: string, effect: Exclude<SessionEffect, { kind: 'start' | 'stop' }>): void {
    if (effect.kind === 'transmit') return this.channel.send(this.set, effect.octets, LINK);
    const one = this.open.get(peer);
    if (!one) return;
    if (effect.kind === 'connected') one.conversation.connected?.();
    if (effect.kind === 'data' && one.conversation.data) one.conversation.data(effect.octets);
    else if (effect.kind === 'data') this.gather(one, toLatin1(effect.octets));
    if (effect.kind === 'reset') one.unconfirmed = 0;
    if (effect.kind === 'confirmed') {
      one.unconfirmed -= effect.octets;
      one.conversation.confirmed?.(effect.octets);
      this.leave(one);
    }
    if (effect.kind === 'disconnected') this.forget(peer);
  }

  private gather(one: Open, text: string): void {
    const parts = (one.gathered + text.replaceAll('\r\n', '\r')).split(/[\r\n]/);
    one.gathered = (parts.pop() as string).slice(-2000);
    for (const part of parts) one.conversation.line(part);
  }

  private leave(one: Open): void {
    if (one.isLeaving && one.unconfirmed <= 0) one.machine.dispatch({ kind: 'disconnect' });
  }

  private forget(peer: string): void {
    const one = this.open.get(peer);
    this.open.delete(peer);
    one?.machine.end();
    one?.conversation.ended?.();
  }
}
