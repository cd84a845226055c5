import { equalOctets } from '../bits/octets.js';
import { pack } from '../lzhuf/container.js';
import { drive, type Driven } from '../machine/drive.js';
import {
  NOT_CONNECTED,
  type ExchangeContext,
  type ExchangeEffect,
  type ExchangeEvent,
  type ExchangeState,
  type Outgoing,
  type Role,
} from '../mail/exchange.js';
import { makeMid, writeLetter } from '../mail/letter.js';
import { challengeAnswer } from '../mail/login.js';
import { packMessage } from '../mail/message.js';
import { PRECEDENCES } from '../mail/proposal.js';
import { step } from '../mail/step.js';
import { seededDice } from '../network/dice.js';
import { Timetable } from '../network/timetable.js';

export interface MailTrialFindings {
  readonly faults: readonly string[];
  readonly sessions: number;
  readonly broken: number;
  readonly crashes: number;
  readonly resumed: number;
  readonly delivered: number;
}

const PROGRAM = { name: 'Trial', version: '1', can: 'B2FHM$' };
const PASSWORD = 'seabird';
const CHALLENGE = '23753528';
const PATIENCE_MS = 120_000;
/** Afterwards nothing goes wrong any more, and all must come to its end. */
const TROUBLED_SESSIONS = 12;
const MOST_SESSIONS = 20;

type Perform = Exclude<ExchangeEffect, { kind: 'start' | 'stop' }>;

/** What one side has on its disk; its process ends and it stays. */
class Disk {
  readonly outbox = new Map<string, Outgoing>();
  readonly inbox = new Map<string, Uint8Array>();
  readonly parts = new Map<string, Uint8Array>();
  readonly refused: string[] = [];
  readonly arrivals: string[] = [];
}

export function runMailTrial(seed: number): MailTrialFindings {
  const dice = seededDice(seed);
  const faults: string[] = [];
  const disks = { caller: new Disk(), called: new Disk() };
  const originals = new Map<string, Uint8Array>();
  for (const role of ['caller', 'called'] as const)
    for (let i = Math.floor(dice() * 8); i > 0; i--) post(disks[role], dice, originals);
  const sum = { sessions: 0, broken: 0, crashes: 0, resumed: 0 };
  while (
    sum.sessions < MOST_SESSIONS &&
    (sum.sessions === 0 || disks.caller.outbox.size + disks.called.outbox.size > 0)
  ) {
    const session = new Session(dice, disks, sum.sessions < TROUBLED_SESSIONS, faults);
    session.run();
    sum.sessions++;
    sum.broken += session.broken;
    sum.crashes += session.crashes;
    sum.resumed += session.resumed;
  }
  for (const [role, other] of [
    ['caller', 'called'],
    ['called', 'caller'],
  ] as const) {
    if (disks[role].outbox.size > 0)
      faults.push(`${role} still has ${disks[role].outbox.size} in its outbox`);
    for (const [mid, octets] of disks[other].inbox)
      if (!equalOctets(octets, originals.get(mid) ?? new Uint8Array())) faults.push(`${mid} came changed`);
    const arrivals = disks[other].arrivals;
    if (new Set(arrivals).size !== arrivals.length) faults.push(`${other} kept a message twice`);
  }
  const delivered = disks.caller.inbox.size + disks.called.inbox.size;
  if (delivered !== originals.size)
    faults.push(`${originals.size - delivered} of ${originals.size} were lost`);
  return { faults, delivered, ...sum };
}

function post(disk: Disk, dice: () => number, originals: Map<string, Uint8Array>): void {
  const mid = makeMid(dice);
  const words = Array.from({ length: Math.floor(dice() ** 3 * 900) }, () =>
    Math.floor(dice() * 1e6).toString(36),
  );
  const files =
    dice() < 0.3
      ? [{ name: 'map.bin', octets: Uint8Array.from(words.join(''), (sign) => sign.charCodeAt(0) ^ 0x85) }]
      : [];
  const octets = packMessage(
    writeLetter({
      mid,
      dateMs: 1_700_000_000_000,
      from: 'QH4MPK',
      to: ['QH7CTA'],
      cc: [],
      subject: `tally ${words[0] ?? ''}`,
      text: words.join(' '),
      files,
      origin: 'QH4MPK',
      beyondLatin1: 'utf-8',
    }),
  );
  const packed = pack(octets);
  originals.set(mid, octets);
  const precedence = PRECEDENCES[Math.floor(dice() * 4)] ?? 'routine';
  disk.outbox.set(mid, {
    mid,
    octets: octets.length,
    packedOctets: packed.length,
    packed,
    precedence,
    subject: 'tally',
    to: 'QH7CTA',
    from: 'QH4MPK',
  });
}

interface Side {
  readonly role: Role;
  readonly disk: Disk;
  driven: Driven<ExchangeState, ExchangeEvent>;
  isAlive: boolean;
}

/** One connection between the two, from the call to its end, however that comes. */
class Session {
  broken = 0;
  crashes = 0;
  resumed = 0;
  private readonly clock = new Timetable();
  private readonly sides: Record<Role, Side>;
  private isUp = true;
  /** Octets until the pipe breaks, each way. */
  private readonly breaksAfter: number;
  private passed = 0;
  private readonly crashRate: number;
  private readonly garbleRate: number;
  private readonly keepFails: number;

  constructor(
    private readonly dice: () => number,
    private readonly disks: Record<Role, Disk>,
    isTroubled: boolean,
    private readonly faults: string[],
  ) {
    this.breaksAfter = isTroubled && dice() < 0.6 ? Math.floor(dice() ** 2 * 6000) : Infinity;
    this.crashRate = isTroubled && dice() < 0.4 ? 0.03 : 0;
    this.garbleRate = isTroubled && dice() < 0.2 ? 0.05 : 0;
    this.keepFails = isTroubled && dice() < 0.2 ? 0.5 : 0;
    this.sides = { caller: this.side('caller'), called: this.side('called') };
  }

  run(): void {
    this.dispatch('called', { kind: 'connected' });
    this.dispatch('caller', { kind: 'connected' });
    this.clock.advance(3_600_000);
    for (const side of Object.values(this.sides)) {
      if (side.isAlive && side.driven.state().phase !== 'over')
        this.faults.push(`${side.role} hangs in ${side.driven.state().phase}`);
      side.driven.end();
    }
    if (this.clock.leftovers() > 0) this.faults.push(`${this.clock.leftovers()} timers are left over`);
  }

  private side(role: Role): Side {
    const disk = this.disks[role];
    const coming = new Set<string>();
    const driven = drive<ExchangeState, ExchangeEvent, ExchangeEffect, ExchangeContext>(step, NOT_CONNECTED, {
      clock: this.clock,
      dice: this.dice,
      context: (moment) => ({
        ...moment,
        role,
        own: role === 'caller' ? 'QH4MPK' : 'QH5VEL-10',
        peer: role === 'caller' ? 'QH5VEL-10' : 'QH4MPK',
        locator: 'IG40hj',
        addresses: ['QH4MPK'],
        program: PROGRAM,
        answerTo: (challenge) => challengeAnswer(challenge, PASSWORD),
        ...(role === 'called'
          ? {
              challenge: CHALLENGE,
              isRight: (answer: string | undefined) => answer === challengeAnswer(CHALLENGE, PASSWORD),
            }
          : {}),
        outgoing: () => [...disk.outbox.values()],
        has: (mid) => (disk.inbox.has(mid) ? 'all' : disk.parts.get(mid)),
        takes: true,
        largestOctets: 500_000,
        announces: role === 'called',
        patienceMs: PATIENCE_MS,
      }),
      perform: (effect) => this.perform(role, coming, effect),
    });
    return { role, disk, driven, isAlive: true };
  }

  private dispatch(role: Role, event: ExchangeEvent): void {
    const side = this.sides[role];
    if (side.isAlive) side.driven.dispatch(event);
  }

  private perform(role: Role, coming: Set<string>, effect: Perform): void {
    const side = this.sides[role];
    if (!side.isAlive) return;
    const { disk } = side;
    switch (effect.kind) {
      case 'say':
        this.carry(role, effect.octets);
        break;
      case 'part':
        if (disk.parts.has(effect.mid) && !coming.has(effect.mid)) this.resumed++;
        coming.add(effect.mid);
        disk.parts.set(effect.mid, effect.packed);
        break;
      case 'forget part':
        disk.parts.delete(effect.mid);
        break;
      case 'keep':
        this.keep(role, effect.mid, effect.octets);
        break;
      case 'sent':
        if (!this.disks[role === 'caller' ? 'called' : 'caller'].inbox.has(effect.mid))
          this.faults.push(`${effect.mid} counts as sent and was not kept`);
        disk.outbox.delete(effect.mid);
        break;
      case 'refused':
        this.faults.push(`${effect.mid} was refused`);
        break;
      case 'hang up':
        this.clock.after(5000, () => this.down());
        break;
    }
    if (this.dice() < this.crashRate) this.crash(side);
  }

  private keep(role: Role, mid: string, octets: Uint8Array): void {
    const { disk } = this.sides[role];
    const fails = this.dice() < this.keepFails;
    this.clock.after(this.dice() * 3000, () => {
      if (!this.sides[role].isAlive) return;
      if (fails) return this.dispatch(role, { kind: 'not kept', mid });
      disk.arrivals.push(mid);
      disk.inbox.set(mid, octets);
      disk.parts.delete(mid);
      this.dispatch(role, { kind: 'kept', mid });
    });
  }

  private crash(side: Side): void {
    this.crashes++;
    side.isAlive = false;
    side.driven.end();
    this.clock.after(this.dice() * 30_000, () => this.down());
  }

  /** In order, in pieces, each with its delay; until the pipe breaks. */
  private carry(from: Role, octets: Uint8Array): void {
    const to = from === 'caller' ? 'called' : 'caller';
    for (let at = 0; at < octets.length;) {
      const piece = octets.slice(at, at + 1 + Math.floor(this.dice() * 400));
      at += piece.length;
      this.readyMs[to] = Math.max(this.readyMs[to], this.clock.nowMs()) + this.dice() * 2000;
      this.clock.after(this.readyMs[to] - this.clock.nowMs(), () => this.arrive(to, piece));
    }
  }

  private readonly readyMs: Record<Role, number> = { caller: 0, called: 0 };

  private arrive(to: Role, piece: Uint8Array): void {
    if (!this.isUp) return;
    const left = this.breaksAfter - this.passed;
    this.passed += piece.length;
    const whole = left >= piece.length ? piece : piece.slice(0, Math.max(0, left));
    // Only blocks: lines have the checksum of the frames that carry them, and nothing else.
    if (this.sides[to].driven.state().phase === 'receiving' && this.dice() < this.garbleRate)
      whole[Math.floor(this.dice() * whole.length)]! ^= 1 << Math.floor(this.dice() * 8);
    if (whole.length > 0) this.dispatch(to, { kind: 'data', octets: whole });
    if (whole.length < piece.length) {
      this.broken++;
      this.down();
    }
  }

  private down(): void {
    if (!this.isUp) return;
    this.isUp = false;
    for (const role of ['caller', 'called'] as const)
      this.clock.after(this.dice() * 60_000, () => this.dispatch(role, { kind: 'lost' }));
  }
}
