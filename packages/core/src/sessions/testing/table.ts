import type { Control, Modulo } from '../../ax25/control.js';
import {
  COMMAND_BITS,
  decodeFrame,
  encodeFrame,
  NO_LAYER_3,
  RESPONSE_BITS,
  type Ax25Frame,
} from '../../ax25/frame.js';
import { fromLatin1, toLatin1 } from '../../bits/octets.js';
import {
  disconnectedSession,
  type SessionEffect,
  type SessionEvent,
  type SessionOptions,
  type SessionState,
} from '../session.js';
import { step } from '../step.js';
import { usualTimers } from '../timers.js';

export const TERMS = { baud: 1200, txDelayMs: 300, packetOctets: 8, window: 4, digipeaters: 0 };
export const OPTIONS: SessionOptions = {
  own: 'QH4MPK',
  peer: 'QH2HUT-1',
  via: [],
  packetOctets: 8,
  window8: 4,
  window128: 32,
  retries: 3,
  ...usualTimers(TERMS),
  earliestAnswerMs: 0,
  extended: false,
  selective: false,
  accepts: true,
  negotiates: false,
};

/** One end with the other played by the test: what it sends is told as `I 0 0 P:text`. */
export class Table {
  state: SessionState;
  atMs = 0;
  told: string[] = [];

  constructor(private readonly options: SessionOptions = OPTIONS) {
    this.state = disconnectedSession(options);
  }

  do(event: SessionEvent): string[] {
    const [state, effects] = step(this.state, event, { atMs: this.atMs, options: this.options });
    this.state = state;
    return effects.flatMap((effect) => this.tell(effect));
  }

  /** A frame of the other end; a response where `isCommand` is false. */
  hears(control: Control, isCommand = true, info = ''): string[] {
    const frame: Ax25Frame = {
      destination: this.options.own,
      source: this.options.peer,
      path: [...this.options.via].reverse().map((call) => ({ call, used: true })),
      cBits: isCommand ? COMMAND_BITS : RESPONSE_BITS,
      control,
      ...(control.kind === 'I' ? { pid: NO_LAYER_3 } : {}),
      info: fromLatin1(info),
    };
    return this.do({ kind: 'heard', octets: encodeFrame(frame, this.state.modulo) });
  }

  rings(timer: 'T1' | 'T2' | 'T3' | 'XID'): string[] {
    return this.do({ kind: 'timer', timer });
  }

  /** Both ends know that the link stands. */
  connected(): this {
    this.do({ kind: 'connect' });
    this.hears({ kind: 'UA', pf: true }, false);
    return this;
  }

  private tell(effect: SessionEffect): string[] {
    switch (effect.kind) {
      case 'transmit':
        return [said(effect.octets, this.state.modulo)];
      case 'start':
        return [`${effect.timer} on`];
      case 'stop':
        return [`${effect.timer} off`];
      case 'data':
        return [`data ${toLatin1(effect.octets)}`];
      case 'connected':
        return [`connected ${effect.modulo} by ${effect.calledBy}`];
      case 'disconnected':
        return [`disconnected ${effect.reason}, lost ${effect.lostOctets}`];
      case 'reset':
        return [`reset, lost ${effect.lostOctets}`];
      case 'confirmed':
        return [`confirmed ${effect.octets}`];
      case 'trouble':
        return [effect.what];
    }
  }
}

function said(octets: Uint8Array, modulo: Modulo): string {
  const { control, cBits, info } = decodeFrame(octets, modulo) as Ax25Frame;
  const numbers = 'ns' in control ? ` ${control.ns} ${control.nr}` : 'nr' in control ? ` ${control.nr}` : '';
  const text = control.kind === 'I' ? `:${toLatin1(info)}` : '';
  return `${control.kind}${numbers}${control.pf ? (cBits.destination ? ' P' : ' F') : ''}${text}`;
}

export const send = (text: string): SessionEvent => ({ kind: 'send', octets: fromLatin1(text) });
/** Without the timers. */
export const frames = (told: readonly string[]): string[] => told.filter((line) => !/^T\d o/.test(line));

export function heardFrame(control: Control, info: Uint8Array): SessionEvent {
  const frame = { destination: 'QH4MPK', source: 'QH2HUT-1', path: [], cBits: COMMAND_BITS, control, info };
  return { kind: 'heard', octets: encodeFrame(frame) };
}
