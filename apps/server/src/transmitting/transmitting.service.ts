import { randomUUID } from 'node:crypto';
import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { encodeFrame, uiFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { EchoBook } from '@mistpeak/core/transmitting/echo';
import type { Permit } from '@mistpeak/core/transmitting/lock';
import type { Drop, SendClass } from '@mistpeak/core/transmitting/way-out';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import type { FailureReason } from '@mistpeak/contract/failures';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { ProblemException } from '../problems/problem.js';
import { ProofService } from '../proof/proof.service.js';
import { TrafficService } from '../traffic/traffic.service.js';
import { LockService } from './lock.service.js';
import { Outlet, type OutletFrame } from './outlet.js';
import { TransmissionLog, viewOf } from './transmission-log.js';
import { TransmissionEntity } from './transmitting.entity.js';

/** One frame that is to go out. */
export interface Outgoing {
  readonly linkId: string;
  readonly frame: Ax25Frame;
  readonly sendClass: SendClass;
  /** Who takes turns: a session, a program, the operator. */
  readonly owner: string;
  /** For the log of what was sent. */
  readonly purpose: string;
  /** The octets where they are not ours to build, and their port. */
  readonly raw?: Uint8Array;
  readonly port?: number;
  /** The station of ours that answers for a frame of another source. Left out: the source itself, with the call in force. */
  readonly answering?: string;
  /** No use after so long. */
  readonly expiresInMs?: number;
}

/** An operator's command. The same id again answers with what became of the first. */
export type Command = Outgoing & { readonly id: string };

/** What the operator is told of a command that will never go out; what else ends on its way is shown as abandoned. */
const REFUSED_FOR: Partial<Record<Drop, FailureReason>> = {
  closed: 'closed-meanwhile',
  'too many waiting': 'too-much-waiting',
  'too long': 'over-too-long',
};

interface OnItsWay {
  readonly row: TransmissionEntity;
  readonly outgoing: Outgoing;
  readonly begun: Permit;
  readonly isCommand: boolean;
}

/** The one way to the air: permission, order, record; and the recognition of what comes back. */
@Injectable()
export class TransmittingService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger('transmitting');
  private readonly outlets = new Map<string, Outlet>();
  private readonly echoes = new Map<string, EchoBook>();
  private readonly onTheirWay = new Map<string, OnItsWay>();
  /** The last command on each link, and until when it is on the air. */
  private readonly underwayOn = new Map<string, { row: TransmissionEntity; clearAtUpMs: number }>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly lock: LockService,
    private readonly log: TransmissionLog,
    private readonly proof: ProofService,
    private readonly traffic: TrafficService,
  ) {}

  onApplicationBootstrap(): void {
    this.lock.onClosing((linkId) => this.outlets.get(linkId)?.tell({ kind: 'close' }));
    this.links.onRemoved((linkId) => this.forget(linkId));
    this.traffic.take('echo', {
      heard: ({ linkId, raw, atMs, origin }) => {
        if (origin !== 'capture' && origin !== 'internet') this.hearEcho(linkId, raw, atMs);
      },
    });
  }

  onModuleDestroy(): void {
    for (const outlet of this.outlets.values()) outlet.end();
  }

  /** An operator's own command; resolves when it has been handed to the TNC. One statement comes before: the claim of its id. */
  async command(command: Command): Promise<TransmissionView> {
    const { id, linkId } = command;
    const begun = this.lock.begin(linkId);
    try {
      this.permit(command, begun);
    } catch (refusal) {
      const before = await this.log.find(id);
      if (before) return viewOf(before);
      throw refusal;
    }
    const row = this.rowOf(id, command);
    const same = this.underway(row);
    if (same) return viewOf(same);
    // From here to the wire the frame is underway already: another window may ask at this very moment.
    this.underwayOn.set(linkId, { row, clearAtUpMs: -Infinity });
    try {
      if (!(await this.log.claim(row))) {
        // Asked before: this one is not underway, and must not pass for it when the same is sent anew.
        row.state = 'abandoned';
        return viewOf((await this.log.find(id)) ?? row);
      }
    } catch (error) {
      row.state = 'abandoned';
      throw error;
    }
    const what = await this.pass({ row, outgoing: command, begun, isCommand: true });
    const refused = what === 'handed' ? undefined : REFUSED_FOR[what];
    if (refused) throw new ProblemException(refused);
    return viewOf(row);
  }

  /** Whatever is no command of the operator: no statement comes before it. Tells what became of it; rejects if it may not go out. */
  async offer(outgoing: Outgoing): Promise<'handed' | Drop> {
    const begun = this.lock.begin(outgoing.linkId);
    this.permit(outgoing, begun);
    const row = this.rowOf(randomUUID(), outgoing);
    return this.pass({ row, outgoing, begun, isCommand: false });
  }

  /** Takes back what this owner has waiting. */
  withdraw(linkId: string, owner: string): void {
    this.outlets.get(linkId)?.tell({ kind: 'withdraw', owner });
  }

  private forget(linkId: string): void {
    this.outlets.get(linkId)?.end();
    for (const known of [this.outlets, this.echoes, this.underwayOn]) known.delete(linkId);
  }

  /** A frame heard on a link: if it is one of ours come back, that is noted and told. */
  private hearEcho(linkId: string, raw: Uint8Array, heardAtMs: number): void {
    // The echo's delay is told by the clock that nobody sets.
    const echo = this.echoes.get(linkId)?.hear(raw, this.clock.upMs());
    const row = echo && this.log.awaiting(echo.id);
    if (!echo || !row) return;
    const { by, afterMs } = echo;
    row.echoes = [...row.echoes, { by, afterMs }];
    this.log.note(row);
    const seconds = (afterMs / 1000).toFixed(1);
    const words = by ? `repeated by ${by} after ${seconds} s` : `heard back unrepeated after ${seconds} s`;
    const rung = by ? 'repeated' : 'keyed';
    void this.proof.record({ linkId, rung, atMs: heardAtMs, kind: 'frame', words, raw });
  }

  /** A frame of ours seen on the internet side, where a gate brought it in from radio: which rung that lights, of the link that sent it. */
  seenAtGate(raw: Uint8Array, gate: string, words: string): boolean {
    const upMs = this.clock.upMs();
    for (const [linkId, book] of this.echoes) {
      const seen = book.find(raw, upMs);
      const row = seen && this.log.awaiting(seen.id);
      if (!seen || !row) continue;
      if (row.gates.some(({ by }) => by === gate)) return true;
      row.gates = [...row.gates, { by: gate, afterMs: seen.afterMs }];
      this.log.note(row);
      const seconds = (seen.afterMs / 1000).toFixed(1);
      void this.proof.record({
        linkId,
        rung: 'at a gateway',
        atMs: this.clock.nowMs(),
        kind: 'frame',
        words: `${gate}, ${seconds} s after it was sent: ${words}`,
        raw: row.raw,
      });
      return true;
    }
    return false;
  }

  private permit({ linkId, frame, answering }: Outgoing, begun: Permit): void {
    if (answering === undefined) this.lock.permit(linkId, frame.source, begun);
    else this.lock.permitOwn(linkId, answering, frame.source, begun);
  }

  private rowOf(
    id: string,
    { linkId, frame, purpose, raw = encodeFrame(frame) }: Outgoing,
  ): TransmissionEntity {
    const { airRate, txDelayMs, txTailMs } = this.links.settings(linkId);
    return {
      id,
      linkId,
      source: frame.source,
      purpose,
      raw: Buffer.from(raw),
      airTimeMs: airTimeMs(raw, airRate, { txDelayMs, txTailMs }),
      queuedAt: new Date(this.clock.nowMs()),
      handedAt: null,
      state: 'queued',
      echoes: [],
      gates: [],
    };
  }

  /** The very same frame, waiting or on the air at this moment: two windows in which Send was pressed mean one. */
  private underway({ linkId, raw }: TransmissionEntity): TransmissionEntity | undefined {
    const last = this.underwayOn.get(linkId);
    if (!last?.row.raw.equals(raw)) return undefined;
    const isOnAir = last.row.state === 'handed' && last.clearAtUpMs > this.clock.upMs();
    return last.row.state === 'queued' || isOnAir ? last.row : undefined;
  }

  private async pass(onItsWay: OnItsWay): Promise<'handed' | Drop> {
    const { row, outgoing, begun } = onItsWay;
    const { linkId, sendClass, owner, port = 0, expiresInMs } = outgoing;
    this.log.note(row);
    this.onTheirWay.set(row.id, onItsWay);
    try {
      // The claim of a command took its time.
      this.permit(outgoing, begun);
      const what = await this.outlet(linkId).offer({
        id: row.id,
        owner,
        sendClass,
        airTimeMs: row.airTimeMs - this.keyingMs(linkId),
        // The lock permits no frame in which no call of ours stands as source or as its last repeater.
        identifies: true,
        ...(expiresInMs === undefined ? {} : { expiresAtMs: this.clock.upMs() + expiresInMs }),
        port,
        raw: row.raw,
      });
      if (what !== 'handed') this.abandon(row);
      return what;
    } catch (error) {
      this.abandon(row);
      throw error;
    } finally {
      this.onTheirWay.delete(row.id);
    }
  }

  private abandon(row: TransmissionEntity): void {
    row.state = 'abandoned';
    this.log.note(row);
  }

  private outlet(linkId: string): Outlet {
    const known = this.outlets.get(linkId);
    if (known) return known;
    const outlet = new Outlet({
      clock: this.clock,
      keyingMs: () => this.keyingMs(linkId),
      permit: ({ id }) => {
        const one = this.onTheirWay.get(id);
        if (one) this.permit(one.outgoing, one.begun);
      },
      write: (frames, leftAfterMs) => this.write(linkId, frames, leftAfterMs),
      handed: (frames) => frames.forEach(({ id }) => this.noteHanded(this.onTheirWay.get(id))),
      identify: () => void this.identify(linkId).catch((error: unknown) => this.logger.warn(String(error))),
    });
    this.outlets.set(linkId, outlet);
    return outlet;
  }

  private keyingMs(linkId: string): number {
    const { txDelayMs, txTailMs } = this.links.settings(linkId);
    return txDelayMs + txTailMs;
  }

  private async write(linkId: string, frames: readonly OutletFrame[], leftAfterMs: number): Promise<void> {
    await this.links.openRun(linkId).transmit(frames, leftAfterMs);
    const clearAtUpMs = this.clock.upMs() + leftAfterMs;
    const last = this.underwayOn.get(linkId);
    if (last && frames.some(({ id }) => id === last.row.id)) last.clearAtUpMs = clearAtUpMs;
  }

  /** It is on its way: whatever the database does now must not make it look unsent. */
  private noteHanded(onItsWay: OnItsWay | undefined): void {
    if (!onItsWay) return;
    const { row, outgoing, begun, isCommand } = onItsWay;
    const { linkId, raw } = row;
    const atMs = this.clock.nowMs();
    this.lock.touch(linkId, begun);
    this.echoBook(linkId).note(row.id, raw, this.clock.upMs());
    this.log.await(row);
    this.traffic.sent({ linkId, port: outgoing.port ?? 0, atMs, raw, origin: 'own' });
    row.state = 'handed';
    row.handedAt = new Date(atMs);
    this.log.note(row);
    const words = `${row.source}, ${raw.length} octets written`;
    const isRoutine = !isCommand;
    void this.proof.record({ linkId, rung: 'handed to the TNC', atMs, kind: 'frame', words, raw, isRoutine });
  }

  private echoBook(linkId: string): EchoBook {
    const book = this.echoes.get(linkId) ?? new EchoBook();
    this.echoes.set(linkId, book);
    return book;
  }

  /** The call in force by itself, as its own frame: to nobody, by no digipeater. */
  private async identify(linkId: string): Promise<void> {
    const { call } = this.lock.view(linkId);
    if (call === undefined) return;
    const frame = uiFrame(call, 'ID', [], fromLatin1(call));
    await this.offer({
      linkId,
      frame,
      sendClass: 'test',
      owner: 'identification',
      purpose: 'identification',
    });
  }
}
