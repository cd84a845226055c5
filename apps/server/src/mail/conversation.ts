import { drive, type Driven } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import type { Announced } from '@mistpeak/core/mail/lines';
import {
  NOT_CONNECTED,
  type Ending,
  type ExchangeContext,
  type ExchangeEffect,
  type ExchangeEvent,
  type ExchangeState,
  type Incoming,
} from '@mistpeak/core/mail/exchange';
import { step } from '@mistpeak/core/mail/step';
import { wireOctets } from '@mistpeak/core/mail/minutes';
import type { CarriedMessage, MailLine } from '@mistpeak/contract/mail-session';
import type { Clock } from '@mistpeak/link/clock';
import type { MailHoldings } from './holdings.service.js';
import type { MailWire } from './wire.js';

/** What is asked of whoever holds this conversation. */
export interface ConversationHost {
  readonly id: string;
  readonly clock: Clock;
  readonly holdings: MailHoldings;
  /** Somebody is there who can be asked. */
  readonly isAttended: boolean;
  readonly wire: () => MailWire;
  readonly line: (line: MailLine) => void;
  readonly loggedIn: () => void;
  readonly sent: (mid: string, how: 'taken' | 'had') => void;
  /** A message is on the disk. */
  readonly received: (kept: Awaited<ReturnType<MailHoldings['keep']>>, mid: string) => void;
  readonly ended: (ending: Ending) => void;
  readonly changed: () => void;
}

export type ConversationContext = Omit<ExchangeContext, keyof Moment | 'has'>;

/** What our answer makes of an offer. */
const ANSWERED: Partial<Record<string, CarriedMessage['state']>> = {
  yes: 'proposed',
  resume: 'proposed',
  no: 'had',
  later: 'later',
};

/** Parts are kept this often, and at every whole message. */
const PART_EVERY_OCTETS = 1000;

/** One exchange in operation, over whatever wire: the driven machine, and how far each message is. */
export class Conversation {
  readonly out = new Map<string, CarriedMessage>();
  readonly in = new Map<string, CarriedMessage>();
  readonly announced: Announced[] = [];
  askedAbout: readonly string[] = [];
  octetsOut = 0;
  octetsIn = 0;
  confirmedOctets = 0;
  private readonly ranges: { mid: string; from: number; to: number }[] = [];
  private readonly machine: Driven<ExchangeState, ExchangeEvent>;

  constructor(
    private readonly host: ConversationHost,
    context: ConversationContext,
  ) {
    this.machine = drive<ExchangeState, ExchangeEvent, ExchangeEffect, ExchangeContext>(step, NOT_CONNECTED, {
      clock: host.clock,
      context: (moment) => ({ ...moment, ...context, has: (mid) => host.holdings.has(host.id, mid) }),
      perform: (effect) => this.perform(effect),
      changed: () => host.changed(),
    });
  }

  state(): ExchangeState {
    return this.machine.state();
  }

  dispatch(event: ExchangeEvent): void {
    if (event.kind === 'data') this.octetsIn += event.octets.length;
    this.machine.dispatch(event);
  }

  noteConfirmed(octets: number): void {
    this.confirmedOctets = octets;
    for (const { mid, from, to } of this.ranges) {
      const one = this.out.get(mid);
      if (one?.state !== 'under way') continue;
      const share = Math.max(0, Math.min(1, (octets - from) / (to - from)));
      this.out.set(mid, { ...one, doneOctets: Math.round(share * one.packedOctets) });
    }
    this.machine.dispatch({ kind: 'moving' });
    this.host.changed();
  }

  decide(answers: Readonly<Record<string, 'yes' | 'no' | 'later'>>): void {
    for (const mid of this.askedAbout) {
      const one = this.in.get(mid);
      const answer = answers[mid] ?? 'later';
      if (one && answer !== 'yes')
        this.in.set(mid, { ...one, state: answer === 'no' ? 'not wanted' : 'later' });
    }
    this.askedAbout = [];
    this.machine.dispatch({ kind: 'decided', answers });
  }

  /** Octets that are still to come or go, as far as is known. */
  octetsLeft(): number {
    const left = (all: Map<string, CarriedMessage>, states: readonly string[]): number =>
      [...all.values()]
        .filter(({ state }) => states.includes(state))
        .reduce((sum, { packedOctets, doneOctets }) => sum + wireOctets(packedOctets, '') - doneOctets, 0);
    return left(this.out, ['proposed', 'under way']) + left(this.in, ['proposed', 'under way']);
  }

  end(): void {
    this.machine.end();
    this.host.holdings.release(this.host.id);
  }

  private perform(effect: Exclude<ExchangeEffect, { kind: 'start' | 'stop' }>): void {
    const { host } = this;
    switch (effect.kind) {
      case 'say':
        return this.say(effect);
      case 'line':
        return host.line({ atMs: host.clock.nowMs(), side: effect.side, text: effect.text });
      case 'logged in':
        return host.loggedIn();
      case 'proposed':
        return this.proposed(effect);
      case 'ask':
        this.askedAbout = effect.incoming.map(({ mid }) => mid);
        // Nobody is there to answer: it stays where it is, and the channel is not held for a question.
        if (!host.isAttended) return this.decide({});
        return host.changed();
      case 'part':
        return this.part(effect.mid, effect.packed);
      case 'forget part':
        return host.holdings.forgetPart(effect.mid);
      case 'keep':
        return void this.keep(effect.mid, effect.octets);
      case 'sent':
        this.settle(effect.mid, effect.how);
        return host.sent(effect.mid, effect.how);
      case 'put off':
        host.holdings.note(
          effect.mid,
          effect.how === 'held' ? 'held at the other end for now' : 'put off by the other end',
        );
        return this.settle(effect.mid, effect.how);
      case 'refused':
        host.holdings.note(effect.mid, 'refused by the other end');
        return this.settle(effect.mid, 'refused');
      case 'announced':
        this.announced.push(effect.what);
        return;
      case 'hang up':
        return host.wire().hangUp();
      case 'ended':
        return host.ended(effect.ending);
    }
  }

  private say({ octets, isSecret, mid }: Extract<ExchangeEffect, { kind: 'say' }>): void {
    if (mid !== undefined) {
      this.ranges.push({ mid, from: this.octetsOut, to: this.octetsOut + octets.length });
      const one = this.out.get(mid);
      if (one) this.out.set(mid, { ...one, state: 'under way' });
      this.host.line({
        atMs: this.host.clock.nowMs(),
        side: 'mine',
        text: `(${octets.length} octets of ${mid})`,
      });
    }
    this.octetsOut += octets.length;
    this.host.wire().say(octets, isSecret ?? false);
  }

  private proposed({ side, proposals }: Extract<ExchangeEffect, { kind: 'proposed' }>): void {
    const kept = side === 'mine' ? this.out : this.in;
    for (const proposal of proposals) {
      const { mid, octets, packedOctets } = proposal;
      const answer = 'answer' in proposal ? (proposal as Incoming).answer.kind : 'yes';
      kept.set(mid, { mid, octets, packedOctets, doneOctets: 0, state: ANSWERED[answer] ?? 'not wanted' });
    }
    const taken = proposals.filter(({ mid }) => kept.get(mid)?.state === 'proposed').map(({ mid }) => mid);
    this.host.holdings.reserve(this.host.id, side, taken);
  }

  private part(mid: string, packed: Uint8Array): void {
    const one = this.in.get(mid);
    const before = one?.doneOctets ?? 0;
    if (one) this.in.set(mid, { ...one, doneOctets: packed.length, state: 'under way' });
    const isNext = Math.floor(packed.length / PART_EVERY_OCTETS) > Math.floor(before / PART_EVERY_OCTETS);
    if (isNext || packed.length === one?.packedOctets) this.host.holdings.keepPart(mid, packed);
    this.host.changed();
  }

  private async keep(mid: string, octets: Uint8Array): Promise<void> {
    const { host } = this;
    host.line({
      atMs: host.clock.nowMs(),
      side: 'theirs',
      text: `(${mid}, ${octets.length} octets unpacked)`,
    });
    try {
      const kept = await host.holdings.keep(mid, octets);
      const one = this.in.get(mid);
      if (one) this.in.set(mid, { ...one, doneOctets: one.packedOctets, state: 'kept' });
      host.received(kept, mid);
      this.dispatch({ kind: 'kept', mid });
    } catch {
      this.dispatch({ kind: 'not kept', mid });
    }
  }

  private settle(mid: string, state: CarriedMessage['state']): void {
    const one = this.out.get(mid);
    if (!one) return;
    const doneOctets = state === 'taken' ? one.packedOctets : one.doneOctets;
    this.out.set(mid, { ...one, state, doneOctets });
  }
}
