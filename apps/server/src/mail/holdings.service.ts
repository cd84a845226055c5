import { randomUUID } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { pack } from '@mistpeak/core/lzhuf/container';
import type { Outgoing } from '@mistpeak/core/mail/exchange';
import { readLetter, type ReadLetter } from '@mistpeak/core/mail/letter';
import { readMessage } from '@mistpeak/core/mail/message';
import { heldBack, type Way } from '@mistpeak/core/mail/queue';
import type { MailRow } from '@mistpeak/contract/mail';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { MailStore } from './mail-store.js';

/** A posted letter, packed. */
interface Posted {
  readonly row: MailRow;
  readonly outgoing: Outgoing;
}

/**
 * What sessions ask for at once, of what the database holds: ids of all that was received, parts, what is posted. Two sessions on one
 * box take different messages: what one has proposed or is taking, the other leaves alone.
 */
@Injectable()
export class MailHoldings {
  private received = new Set<string>();
  private parts = new Map<string, Uint8Array>();
  private posted: Posted[] = [];
  /** By id: which session has it. */
  private readonly going = new Map<string, string>();
  private readonly coming = new Map<string, string>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly store: MailStore,
  ) {}

  async read(): Promise<void> {
    this.received = new Set(await this.store.receivedMids());
    this.parts = await this.store.parts();
    await this.readOutbox();
  }

  async readOutbox(): Promise<void> {
    const all = await this.store.outbox();
    const before = new Map(this.posted.map((one) => [`${one.row.id} ${one.row.version}`, one.outgoing]));
    this.posted = all.map(({ row, octets }) => ({
      row,
      outgoing: before.get(`${row.id} ${row.version}`) ?? outgoingOf(row, octets),
    }));
  }

  /** For a session by that way. to: only letters that are all for that station. */
  outgoing(session: string, way: Way, to?: string): Outgoing[] {
    const nowMs = this.clock.nowMs();
    return this.posted
      .filter(({ row }) => heldBack(row, way, nowMs) === undefined)
      .filter(({ row }) => to === undefined || row.to.every((one) => one === to))
      .filter(({ row }) => (this.going.get(row.mid) ?? session) === session)
      .map(({ outgoing }) => outgoing);
  }

  has(session: string, mid: string): 'all' | 'coming' | Uint8Array | undefined {
    if (this.received.has(mid)) return 'all';
    if ((this.coming.get(mid) ?? session) !== session) return 'coming';
    return this.parts.get(mid);
  }

  reserve(session: string, side: 'mine' | 'theirs', mids: readonly string[]): void {
    const kept = side === 'mine' ? this.going : this.coming;
    for (const mid of mids) if (!kept.has(mid)) kept.set(mid, session);
  }

  release(session: string): void {
    for (const kept of [this.going, this.coming])
      for (const [mid, owner] of kept) if (owner === session) kept.delete(mid);
  }

  isGoing(mid: string): boolean {
    return this.going.has(mid);
  }

  keepPart(mid: string, packed: Uint8Array): void {
    this.parts.set(mid, packed);
    void this.store.keepPart(mid, packed, this.clock.nowMs());
  }

  forgetPart(mid: string): void {
    if (this.parts.delete(mid)) void this.store.forgetPart(mid);
  }

  /** Resolves when it is on the disk; rejects where it is not. Undefined: it was there already. */
  async keep(mid: string, octets: Uint8Array): Promise<{ id: string; letter: ReadLetter } | undefined> {
    const id = randomUUID();
    const isNew = await this.store.add({
      id,
      box: 'inbox',
      isOurs: false,
      isRead: false,
      octets,
      atMs: this.clock.nowMs(),
      precedence: 'routine',
      onlyInternet: false,
    });
    this.received.add(mid);
    this.forgetPart(mid);
    const message = readMessage(octets);
    return isNew && !isMalformed(message) ? { id, letter: readLetter(message) } : undefined;
  }

  noteSent(mid: string, note: string): void {
    this.posted = this.posted.filter(({ row }) => row.mid !== mid);
    void this.store.noteSent(mid, this.clock.nowMs(), note);
  }

  /** It stays in the outbox, with a word of why. */
  note(mid: string, note: string): void {
    void this.store.note(mid, note);
  }
}

function outgoingOf({ mid, subject, to, from, precedence }: MailRow, octets: Uint8Array): Outgoing {
  const packed = pack(octets);
  return {
    mid,
    octets: octets.length,
    packedOctets: packed.length,
    packed,
    precedence,
    subject,
    to: to[0] ?? '',
    from,
  };
}
