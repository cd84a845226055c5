import { drive } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import {
  modemStep,
  NOT_OPENED,
  type ModemContext,
  type ModemEffect,
  type ModemEvent,
  type ModemState,
} from '@mistpeak/core/command-words/modem-program';
import { cutLines } from '@mistpeak/core/command-words/templates';
import type { ModemProgramSettings } from '@mistpeak/contract/mail-settings';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import { openTcp } from '../adapters/tcp.js';
import type { MailWire, WireEvents } from './wire.js';

const OPENING_LIMIT_MS = 10_000;
const STAND_IN = /\bMistpeak stand-in\b/;
/** How long a stand-in has to say that it is one. */
const GREETING_MS = 2000;

export interface ModemCall {
  readonly modem: ModemProgramSettings;
  readonly own: string;
  readonly peer: string;
  readonly tries: number;
  readonly isDemo: boolean;
}

/** What a modem program tells besides the wire. */
export interface ModemEvents extends WireEvents {
  /** A line of its command port. */
  readonly told: (side: 'mine' | 'theirs', text: string) => void;
  readonly state: (state: ModemState) => void;
  readonly bufferEmpty: () => void;
  readonly disconnected: () => void;
}

/** Calls a station through a modem program: its command port by its own words, its data port as the wire. */
export function callByModem(
  { modem, own, peer, tries, isDemo }: ModemCall,
  clock: Clock,
  events: ModemEvents,
): MailWire {
  const call = new ModemWire(modem, { words: modem.words, own, peer, tries }, isDemo, clock, events);
  void call.open();
  return call;
}

class ModemWire implements MailWire {
  private command: ByteLink | undefined;
  private data: ByteLink | undefined;
  private isOver = false;
  private said = 0;
  private seen = '';
  private readonly giveUp = new AbortController();
  private readonly machine;

  constructor(
    private readonly modem: ModemProgramSettings,
    context: ModemContext,
    private readonly isDemo: boolean,
    private readonly clock: Clock,
    private readonly events: ModemEvents,
  ) {
    this.machine = drive<ModemState, ModemEvent, ModemEffect, ModemContext & Moment>(modemStep, NOT_OPENED, {
      clock,
      context: (moment) => ({ ...moment, ...context }),
      perform: (effect) => this.perform(effect),
      changed: (state) => events.state(state),
    });
  }

  async open(): Promise<void> {
    const cancel = this.clock.after(OPENING_LIMIT_MS, () => this.giveUp.abort());
    try {
      const { host, commandPort, dataPort } = this.modem;
      this.command = await openTcp(host, commandPort, this.giveUp.signal);
      this.data = await openTcp(host, dataPort, this.giveUp.signal);
      cancel();
      void this.read(this.command, (octets) => this.hear(octets));
      void this.read(this.data, (octets) => this.events.data(octets));
      if (!this.isDemo) return this.machine.dispatch({ kind: 'opened' });
      // Not a word with a demo call in it before it has said what it is.
      this.clock.after(GREETING_MS, () => {
        if (!STAND_IN.test(this.seen))
          return this.end(
            'demo call',
            'a demo call talks to stand-ins only, and the modem program has not said that it is one',
          );
        this.machine.dispatch({ kind: 'opened' });
      });
    } catch (error) {
      cancel();
      this.end('no way', `the modem program does not answer at its ports (${failureOf(error).failure})`);
    }
  }

  say(octets: Uint8Array): void {
    this.data?.send(octets).then(
      () => {
        this.said += octets.length;
        if (!this.isOver) this.events.confirmed(this.said);
      },
      () => this.end('ended', 'the modem program has closed its data port'),
    );
  }

  hangUp(): void {
    this.machine.dispatch({ kind: 'disconnect' });
  }

  drop(): void {
    this.machine.dispatch({ kind: 'abort' });
  }

  private async read(link: ByteLink, take: (octets: Uint8Array) => void): Promise<void> {
    try {
      for await (const octets of link.receive) {
        if (this.isOver) return;
        take(octets);
      }
    } catch {
      // Told below: the port is gone.
    }
    this.machine.dispatch({ kind: 'lost' });
  }

  private rest = '';

  private hear(octets: Uint8Array): void {
    const text = Buffer.from(octets).toString('latin1');
    this.seen = (this.seen + text).slice(-2000);
    const { lines, rest } = cutLines(this.rest + text);
    this.rest = rest;
    for (const line of lines) {
      this.events.told('theirs', line);
      this.machine.dispatch({ kind: 'line', text: line });
    }
  }

  private perform(effect: Exclude<ModemEffect, { kind: 'start' | 'stop' }>): void {
    switch (effect.kind) {
      case 'command':
        this.events.told('mine', effect.text);
        return void this.command?.send(Buffer.from(`${effect.text}\r`, 'latin1')).catch(() => undefined);
      case 'connected':
        return this.events.connected();
      case 'buffer empty':
        return this.events.bufferEmpty();
      case 'over':
        if (effect.outcome === 'disconnected') this.events.disconnected();
        return this.end(
          effect.wasConnected ? 'ended' : effect.outcome.startsWith('nobody') ? 'no answer' : 'refused',
          effect.outcome,
        );
    }
  }

  private end(...why: Parameters<WireEvents['ended']>): void {
    if (this.isOver) return;
    this.isOver = true;
    if (!this.data) this.giveUp.abort();
    this.machine.end();
    // The last command still goes out before its port is closed.
    void this.command?.close();
    void this.data?.close();
    this.events.ended(...why);
  }
}
