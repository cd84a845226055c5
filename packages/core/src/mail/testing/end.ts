import { fromLatin1, toLatin1 } from '../../bits/octets.js';
import { pack } from '../../lzhuf/container.js';
import {
  NOT_CONNECTED,
  type ExchangeContext,
  type ExchangeEffect,
  type ExchangeEvent,
  type ExchangeState,
  type Outgoing,
} from '../exchange.js';
import { packMessage } from '../message.js';
import { writeLetter } from '../letter.js';
import { challengeAnswer } from '../login.js';
import { step } from '../step.js';

const PROGRAM = { name: 'Mistpeak', version: '1', can: 'B2FHM$' };

export function outgoing(
  mid: string,
  text = 'hi',
  more: Partial<Outgoing> = {},
): Outgoing & { readonly whole: Uint8Array } {
  const whole = packMessage(
    writeLetter({
      mid,
      dateMs: 0,
      from: 'QH4MPK',
      to: ['QH7CTA'],
      cc: [],
      subject: mid,
      text,
      files: [],
      origin: 'QH4MPK',
      beyondLatin1: 'utf-8',
    }),
  );
  const packed = pack(whole);
  return {
    mid,
    octets: whole.length,
    packedOctets: packed.length,
    packed,
    precedence: 'routine',
    subject: mid,
    to: 'QH7CTA',
    from: 'QH4MPK',
    whole,
    ...more,
  };
}

/** One end, to which the test is the other, by the letters of the published description. */
export class End {
  state: ExchangeState = NOT_CONNECTED;
  effects: ExchangeEffect[] = [];
  readonly context: ExchangeContext;

  constructor(more: Partial<ExchangeContext> = {}) {
    this.context = {
      atMs: 0,
      dice: 0,
      role: 'caller',
      own: 'QH4MPK',
      peer: 'QH5VEL-10',
      locator: 'IG40hj',
      addresses: ['QH4MPK'],
      program: PROGRAM,
      answerTo: (challenge) => challengeAnswer(challenge, 'FOOBAR'),
      outgoing: () => [],
      has: () => undefined,
      takes: true,
      largestOctets: 100_000,
      announces: false,
      patienceMs: 1000,
      ...more,
    };
    this.on({ kind: 'connected' });
  }

  on(event: ExchangeEvent): this {
    const [state, effects] = step(this.state, event, this.context);
    this.state = state;
    this.effects.push(...effects);
    return this;
  }

  hears(text: string | Uint8Array): this {
    return this.on({ kind: 'data', octets: typeof text === 'string' ? fromLatin1(text) : text });
  }

  /** Everything said since the last time, CR as |. */
  said(): string {
    const all = this.effects
      .flatMap((one) => (one.kind === 'say' ? [toLatin1(one.octets)] : []))
      .join('')
      .replaceAll('\r', '|');
    this.effects = this.effects.filter(({ kind }) => kind !== 'say');
    return all;
  }

  of<Kind extends ExchangeEffect['kind']>(kind: Kind): Extract<ExchangeEffect, { kind: Kind }>[] {
    return this.effects.filter((one): one is Extract<ExchangeEffect, { kind: Kind }> => one.kind === kind);
  }

  timers(): string[] {
    return this.effects.flatMap((one) =>
      one.kind === 'start' || one.kind === 'stop' ? [`${one.kind} ${one.timer}`] : [],
    );
  }
}
