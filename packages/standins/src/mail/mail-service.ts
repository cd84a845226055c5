import { isMalformed } from '@mistpeak/core/bits/malformed';
import { pack } from '@mistpeak/core/lzhuf/container';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import { TEST_ADDRESS } from '@mistpeak/core/mail/address';
import {
  NOT_CONNECTED,
  type ExchangeContext,
  type ExchangeEffect,
  type ExchangeEvent,
  type ExchangeState,
  type Outgoing,
} from '@mistpeak/core/mail/exchange';
import { makeMid, readLetter, writeLetter, type ReadLetter } from '@mistpeak/core/mail/letter';
import { challengeAnswer } from '@mistpeak/core/mail/login';
import { packMessage, readMessage } from '@mistpeak/core/mail/message';
import { step } from '@mistpeak/core/mail/step';
import type { Clock } from '@mistpeak/link/clock';

const PROGRAM = { name: 'Hollin', version: '1', can: 'B2FHM$' };
const SERVICE = 'SERVICE';
const LARGEST_OCTETS = 500_000;
const PATIENCE_MS = 5 * 60_000;
/** Accounts of the demo calls. */
const PASSWORDS: Readonly<Record<string, string>> = {
  QH4MPK: 'seabird',
  QH7CTA: 'lantern',
  QH8CLA: 'guillemot',
  QH3PRT: 'harbour',
};

/** Octets both ways, and the end. */
export interface ServiceLine {
  readonly say: (octets: Uint8Array) => void;
  readonly hangUp: () => void;
}

/** What a session of the service takes from its line. */
export interface ServiceSession {
  readonly hear: (octets: Uint8Array) => void;
  readonly moved: () => void;
  readonly lost: () => void;
}

/** The island's mail service: accounts, what waits for each, and the test address; behind every gateway and by TCP. */
export class MailService {
  private readonly waiting: (Outgoing & { readonly afterSession: number })[] = [];
  private sessions = 0;
  private readonly known = new Map<string, Uint8Array>();
  private readonly parts = new Map<string, Uint8Array>();
  private readonly passwords = new Map(Object.entries(PASSWORDS));

  constructor(
    private readonly clock: Clock,
    private readonly dice: () => number,
  ) {
    this.write(
      'QH3PRT',
      'QH4MPK',
      'Soup until seven',
      'The field kitchen at Sallomere keeps soup until 19:00.\nTell us how many come.\n',
    );
    this.write('QH7CTA', 'QH4MPK', 'Lamps', 'Two lamps are left. Shall they go to hide 3?\n');
  }

  /** An account, with its password. */
  open(account: string, password: string): void {
    this.passwords.set(account, password);
  }

  /** Ids of all that was ever handed in. */
  handedIn(): string[] {
    return [...this.known.keys()];
  }

  /** Leaves a letter for an account. */
  leave(to: string, subject: string, text: string): void {
    this.write('QH3PRT', to, subject, text);
  }

  /** A gateway's end of one call; what the caller shows is for that account. */
  session(own: string, caller: string, line: ServiceLine): ServiceSession {
    const number = ++this.sessions;
    const account = caller.replace(/-\d+$/, '');
    const challenge = String(Math.floor(this.dice() * 1e8)).padStart(8, '0');
    const password = this.passwords.get(account);
    if (password === undefined) this.makeAccount(account);
    const session: Driven<ExchangeState, ExchangeEvent> = drive<
      ExchangeState,
      ExchangeEvent,
      ExchangeEffect,
      ExchangeContext
    >(step, NOT_CONNECTED, {
      clock: this.clock,
      dice: this.dice,
      context: (moment) => ({
        ...moment,
        role: 'called',
        own,
        peer: caller,
        locator: '',
        addresses: [],
        program: PROGRAM,
        answerTo: () => undefined,
        ...(password === undefined
          ? {}
          : {
              challenge,
              isRight: (answer: string | undefined) => answer === challengeAnswer(challenge, password),
            }),
        outgoing: (addresses) =>
          this.waiting.filter(({ to, afterSession }) => addresses.includes(to) && afterSession < number),
        has: (mid) => (this.known.has(mid) ? 'all' : this.parts.get(mid)),
        takes: true,
        largestOctets: LARGEST_OCTETS,
        announces: true,
        patienceMs: PATIENCE_MS,
      }),
      perform: (effect) => this.perform(session, line, effect),
    });
    session.dispatch({ kind: 'connected' });
    return {
      hear: (octets) => session.dispatch({ kind: 'data', octets }),
      moved: () => session.dispatch({ kind: 'moving' }),
      lost: () => {
        session.dispatch({ kind: 'lost' });
        session.end();
      },
    };
  }

  private perform(
    session: Driven<ExchangeState, ExchangeEvent>,
    line: ServiceLine,
    effect: Exclude<ExchangeEffect, { kind: 'start' | 'stop' }>,
  ): void {
    switch (effect.kind) {
      case 'say':
        return line.say(effect.octets);
      case 'hang up':
        return line.hangUp();
      case 'part':
        return void this.parts.set(effect.mid, effect.packed);
      case 'forget part':
        return void this.parts.delete(effect.mid);
      case 'keep':
        this.parts.delete(effect.mid);
        this.known.set(effect.mid, effect.octets);
        this.deliver(effect.octets);
        return session.dispatch({ kind: 'kept', mid: effect.mid });
      case 'sent': {
        const at = this.waiting.findIndex(({ mid }) => mid === effect.mid);
        if (at >= 0) this.waiting.splice(at, 1);
        return;
      }
      default:
        return;
    }
  }

  /** To the accounts here; what comes of it waits for the next connection, the answer of the test address too; the internet of the island takes the rest. */
  private deliver(octets: Uint8Array): void {
    const message = readMessage(octets);
    if (isMalformed(message)) return;
    const letter = readLetter(message);
    for (const to of [...letter.to, ...letter.cc]) {
      if (to.toUpperCase() === TEST_ADDRESS) this.answerTest(letter);
      else if (this.passwords.has(to.toUpperCase()))
        this.wait(letter.mid, to.toUpperCase(), letter.from, letter.subject, octets, this.sessions);
    }
  }

  private answerTest({ from, subject, mid, text }: ReadLetter): void {
    const quoted = text.split('\n').map((line) => `> ${line}`);
    this.write(
      TEST_ADDRESS,
      from,
      `Re: ${subject}`,
      [`Your message ${mid} has arrived.`, '', ...quoted].join('\n'),
    );
  }

  private makeAccount(account: string): void {
    const password = makeMid(this.dice).slice(0, 8);
    this.passwords.set(account, password);
    this.write(
      SERVICE,
      account,
      'Your account',
      `Welcome, ${account}.\nYour password is: ${password}\nIt came over the air: change it soon.\n`,
      this.sessions - 1,
    );
  }

  private write(from: string, to: string, subject: string, text: string, afterSession = this.sessions): void {
    const mid = makeMid(this.dice);
    const message = writeLetter({
      mid,
      dateMs: this.clock.nowMs(),
      from,
      to: [to],
      cc: [],
      subject,
      text,
      files: [],
      origin: from,
      beyondLatin1: 'utf-8',
    });
    this.wait(mid, to, from, subject, packMessage(message), afterSession);
  }

  private wait(
    mid: string,
    to: string,
    from: string,
    subject: string,
    octets: Uint8Array,
    afterSession: number,
  ): void {
    const packed = pack(octets);
    this.waiting.push({
      mid,
      to,
      from,
      subject,
      octets: octets.length,
      packedOctets: packed.length,
      packed,
      precedence: 'routine',
      afterSession,
    });
  }
}
