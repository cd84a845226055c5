import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { toHex, toLatin1 } from '@mistpeak/core/bits/octets';
import { LEAVE_KISS, mayKey, TO_PROMPT } from '@mistpeak/core/tnc-console/commands';
import { FAILURES } from '@mistpeak/contract/failures';
import { isLent, isSound } from '@mistpeak/contract/link';
import type { ConsoleView } from '@mistpeak/contract/terminal';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { LockService } from '../transmitting/lock.service.js';

export interface ConsoleSaid {
  readonly side: 'mine' | 'theirs';
  readonly atMs: number;
  readonly hex: string;
}

interface Console {
  view: ConsoleView;
  wire?: ByteLink;
  readonly said: ConsoleSaid[];
  /** What was typed since the last Enter. */
  line: string;
  /** Somebody is connected through the TNC: every letter goes on the air. */
  isConnected: boolean;
}

const SAID_KEPT = 2000;

/** The command prompt of a TNC: its port without KISS, while the link itself is closed. */
@Injectable()
export class ConsoleService implements OnModuleInit, OnModuleDestroy {
  private readonly consoles = new Map<string, Console>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
  ) {}

  onModuleInit(): void {
    this.live.contribute('consoles', () => [...this.consoles.values()].map(({ view }) => view));
    this.links.onRemoved((linkId) => void this.close(linkId).catch(() => undefined));
  }

  async onModuleDestroy(): Promise<void> {
    for (const linkId of this.consoles.keys()) await this.links.closeConsole(linkId);
  }

  said(linkId: string): readonly ConsoleSaid[] {
    return this.consoles.get(linkId)?.said ?? [];
  }

  /** The link must be closed: one program holds a port. @throws ProblemException */
  async open(linkId: string): Promise<ConsoleView> {
    const settings = this.links.settings(linkId);
    if (isLent(settings) || isSound(settings)) throw new ProblemException('no-console');
    const known = this.consoles.get(linkId);
    if (known && known.view.phase !== 'closed') return known.view;
    const one: Console = {
      view: { linkId, phase: 'opening', openedAtMs: this.clock.nowMs() },
      said: known?.said ?? [],
      line: '',
      isConnected: false,
    };
    this.consoles.set(linkId, one);
    this.tell(one);
    try {
      one.wire = await this.links.openForConsole(linkId);
    } catch (error) {
      this.consoles.delete(linkId);
      this.tell({ ...one, view: { ...one.view, phase: 'closed' } });
      throw error;
    }
    one.view = { ...one.view, phase: 'open' };
    this.tell(one);
    void this.receive(one, one.wire);
    return one.view;
  }

  async close(linkId: string): Promise<ConsoleView> {
    const one = this.find(linkId);
    await this.links.closeConsole(linkId);
    this.noteClosed(one);
    return one.view;
  }

  /** What can key stands behind the lock; what only reads does not. @throws ProblemException if it may not be typed now. */
  async type(linkId: string, octets: Uint8Array): Promise<ConsoleView> {
    const one = this.find(linkId);
    if (one.view.phase !== 'open' || !one.wire) throw new ProblemException('link-not-open');
    if (!this.lock.view(linkId).armed && this.mayKeyNow(one, octets)) throw new ProblemException('not-armed');
    for (const letter of toLatin1(octets))
      one.line = letter === '\r' || letter === '\n' ? '' : one.line + letter;
    this.note(one, 'mine', octets);
    await one.wire.send(octets);
    return one.view;
  }

  /** Leaving KISS, and going back to the prompt, key nothing. */
  private mayKeyNow(one: Console, octets: Uint8Array): boolean {
    const text = toLatin1(octets);
    if (text === toLatin1(LEAVE_KISS) || text === toLatin1(TO_PROMPT)) return false;
    if (one.isConnected) return true;
    const typed = (one.line + text).split(/[\r\n]/);
    // A line that is not ended yet does nothing.
    return typed.slice(0, -1).some((line) => mayKey(line));
  }

  private find(linkId: string): Console {
    const one = this.consoles.get(linkId);
    if (!one) throw new ProblemException('not-found');
    return one;
  }

  private async receive(one: Console, wire: ByteLink): Promise<void> {
    try {
      for await (const octets of wire.receive) this.heard(one, octets);
      this.noteClosed(one, FAILURES['closed-by-peer'].happened);
    } catch (error) {
      this.noteClosed(one, FAILURES[failureOf(error).failure].happened);
    }
  }

  private heard(one: Console, octets: Uint8Array): void {
    const text = toLatin1(octets);
    if (/\*\*\* CONNECTED/i.test(text)) one.isConnected = true;
    if (/\*\*\* DISCONNECTED|cmd:\s*$/i.test(text)) one.isConnected = false;
    this.note(one, 'theirs', octets);
  }

  private note(one: Console, side: ConsoleSaid['side'], octets: Uint8Array): void {
    const said: ConsoleSaid = { side, atMs: this.clock.nowMs(), hex: toHex(octets) };
    one.said.push(said);
    if (one.said.length > SAID_KEPT) one.said.shift();
    this.live.publish({ kind: 'console-said', data: { ...said, linkId: one.view.linkId } });
  }

  private noteClosed(one: Console, trouble?: string): void {
    if (one.view.phase === 'closed') return;
    delete one.wire;
    void this.links.closeConsole(one.view.linkId);
    one.isConnected = false;
    one.view = { ...one.view, phase: 'closed', ...(trouble === undefined ? {} : { trouble }) };
    this.tell(one);
  }

  private tell({ view }: Console): void {
    this.live.publish({ kind: 'console', data: view });
  }
}
