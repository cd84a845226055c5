import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { toHex } from '@mistpeak/core/bits/octets';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { awaitEcho, hearEcho, type Awaited } from '@mistpeak/core/beacon/echo';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import { AsyncQueue } from '@mistpeak/link/async-queue';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ProofService } from '../proof/proof.service.js';
import type { Permit } from '@mistpeak/core/transmitting/lock';
import { TransmissionEntity } from './transmitting.entity.js';
import { LockService } from './lock.service.js';

const SHOWN = 50;

/** A frame of ours as it was handed to a TNC. */
export interface HandedFrame {
  readonly linkId: string;
  readonly atMs: number;
  readonly raw: Uint8Array;
}

/** One frame that is to go out. The same id again answers with what became of the first. */
export interface Outgoing {
  readonly id: string;
  readonly linkId: string;
  readonly frame: Ax25Frame;
  readonly purpose: string;
  /** Of another program: its octets as they came, for its KISS port, and the station of ours that answers for it. */
  readonly shared?: { readonly raw: Uint8Array; readonly port: number; readonly station: string };
}

/** The one queue to the air: lock, order, record; and the recognition of what comes back. */
@Injectable()
export class TransmittingService implements OnApplicationBootstrap, OnModuleDestroy {
  /** Everything handed to a TNC, in order; hearing reads it into the record. */
  readonly handed = new AsyncQueue<HandedFrame>();
  private recent: TransmissionEntity[] = [];
  private awaited = new Map<string, readonly Awaited[]>();
  /** When the last frame of each link will have left the air, by the clock that only goes forward. */
  private readonly clearAtUpMs = new Map<string, number>();
  private readonly lines = new Map<string, Promise<void>>();
  /** The last frame of ours on each link. */
  private readonly underwayOn = new Map<string, TransmissionEntity>();

  constructor(
    @InjectRepository(TransmissionEntity) private readonly rows: Repository<TransmissionEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly lock: LockService,
    private readonly live: LiveService,
    private readonly deferred: DeferredWrites,
    private readonly proof: ProofService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('transmissions', () => this.recent.map(viewOf));
    // What was queued when the last process ended is never sent by the next one.
    await this.rows.update({ state: 'queued' }, { state: 'abandoned' });
    this.recent = await this.rows.find({ order: { queuedAt: 'DESC' }, take: SHOWN });
  }

  onModuleDestroy(): void {
    this.handed.end();
  }

  /** Sends one frame; resolves when it has been handed to the TNC. */
  async send(outgoing: Outgoing): Promise<TransmissionView> {
    const { id, linkId, frame, purpose, shared } = outgoing;
    const begun = this.lock.begin(linkId);
    // Another program's frame is never asked for twice, and must not reach the database before it may be sent.
    if (shared) this.permit(outgoing, begun);
    const before = await this.rows.findOneBy({ id });
    if (before) return viewOf(before);
    this.permit(outgoing, begun);
    const { airRate, txDelayMs, txTailMs } = this.links.settings(linkId);
    const raw = shared?.raw ?? encodeFrame(frame);
    const same = shared ? undefined : this.underway(linkId, raw);
    if (same) return viewOf(same);
    // From here to the queue the frame is underway already: another window may ask at this very moment.
    const row = this.rows.create({
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
    });
    if (!shared) this.underwayOn.set(linkId, row);
    try {
      if (!(await this.claim(row))) return viewOf(await this.rows.findOneByOrFail({ id }));
    } catch (error) {
      row.state = 'abandoned';
      throw error;
    }
    this.note(row);
    const line = (this.lines.get(linkId) ?? Promise.resolve()).then(() => this.hand(row, outgoing, begun));
    this.lines.set(
      linkId,
      line.catch(() => undefined),
    );
    await line;
    return viewOf(row);
  }

  private permit({ linkId, frame, shared }: Outgoing, begun: Permit): void {
    if (shared) this.lock.permitOwn(linkId, shared.station, frame.source, begun);
    else this.lock.permit(linkId, frame.source, begun);
  }

  /** The very same frame, waiting or on the air at this moment: two windows in which Send was pressed mean one. */
  private underway(linkId: string, raw: Uint8Array): TransmissionEntity | undefined {
    const last = this.underwayOn.get(linkId);
    const isOnAir = (this.clearAtUpMs.get(linkId) ?? 0) > this.clock.upMs();
    const isUnderway = last?.state === 'queued' || (last?.state === 'handed' && isOnAir);
    return isUnderway && last?.raw.equals(raw) ? last : undefined;
  }

  /** False when the same request has been taken already: two that arrive together send once. */
  private async claim(row: TransmissionEntity): Promise<boolean> {
    const inserted = await this.rows
      .createQueryBuilder()
      .insert()
      .values(row)
      .orIgnore()
      .returning('id')
      .execute();
    return (inserted.raw as unknown[]).length > 0;
  }

  /** A frame heard on a link: if it is one of ours come back, that is noted and told. */
  async hearEcho(linkId: string, frame: Ax25Frame, raw: Uint8Array, heardAtMs: number): Promise<void> {
    // The echo's delay is told by the clock that nobody sets.
    const [awaited, echo] = hearEcho(this.awaited.get(linkId) ?? [], frame, this.clock.upMs());
    this.awaited.set(linkId, awaited);
    const row = echo && this.recent.find(({ id }) => id === echo.id);
    if (!echo || !row) return;
    const { by, afterMs } = echo;
    row.echoes = [...row.echoes, { by, afterMs }];
    this.note(row);
    const seconds = (afterMs / 1000).toFixed(1);
    const words = by ? `repeated by ${by} after ${seconds} s` : `heard back unrepeated after ${seconds} s`;
    await this.deferred.write('UPDATE transmission SET echoes = $2 WHERE id = $1', [
      row.id,
      JSON.stringify(row.echoes),
    ]);
    await this.proof.record({
      linkId,
      rung: by ? 'repeated' : 'keyed',
      atMs: heardAtMs,
      kind: 'frame',
      words,
      raw,
    });
  }

  private async hand(row: TransmissionEntity, outgoing: Outgoing, begun: Permit): Promise<void> {
    const { linkId } = row;
    const { frame, shared } = outgoing;
    try {
      await this.waitUntilClear(linkId);
      // Asked again: the lock may have been shut, even armed anew, or the far end changed, while this frame waited.
      this.permit(outgoing, begun);
      await this.links.openRun(linkId).transmit(shared?.port ?? 0, row.raw, row.airTimeMs);
    } catch (error) {
      row.state = 'abandoned';
      this.note(row);
      await this.deferred.write("UPDATE transmission SET state = 'abandoned' WHERE id = $1", [row.id]);
      throw error;
    }
    const atMs = this.clock.nowMs();
    const upMs = this.clock.upMs();
    this.clearAtUpMs.set(linkId, upMs + row.airTimeMs);
    this.lock.touch(linkId, begun);
    this.awaited.set(
      linkId,
      awaitEcho(this.awaited.get(linkId) ?? [], { id: row.id, frame, sentAtMs: upMs }),
    );
    this.handed.push({ linkId, atMs, raw: row.raw });
    row.state = 'handed';
    row.handedAt = new Date(atMs);
    this.note(row);
    await this.record(row);
  }

  /** It is on its way: a database that is away now must not make it look unsent. */
  private async record(row: TransmissionEntity): Promise<void> {
    const { id, linkId, raw, handedAt } = row;
    await this.deferred.write("UPDATE transmission SET state = 'handed', handed_at = $2 WHERE id = $1", [
      id,
      handedAt?.toISOString() ?? null,
    ]);
    const words = `${row.source}, ${row.raw.length} octets written`;
    await this.proof.record({
      linkId,
      rung: 'handed to the TNC',
      atMs: handedAt?.getTime() ?? 0,
      kind: 'frame',
      words,
      raw,
    });
  }

  /** One frame after another: the TNC listens before it sends, we do not fill its buffer. */
  private async waitUntilClear(linkId: string): Promise<void> {
    const waitMs = (this.clearAtUpMs.get(linkId) ?? 0) - this.clock.upMs();
    if (waitMs > 0) await new Promise<void>((resolve) => this.clock.after(waitMs, resolve));
  }

  private note(row: TransmissionEntity): void {
    this.recent = [row, ...this.recent.filter(({ id }) => id !== row.id)]
      .sort((a, b) => b.queuedAt.getTime() - a.queuedAt.getTime())
      .slice(0, SHOWN);
    this.live.publish({ kind: 'transmission', data: viewOf(row) });
  }
}

function viewOf(row: TransmissionEntity): TransmissionView {
  const { id, linkId, source, purpose, airTimeMs: ms, state, echoes } = row;
  return {
    id,
    linkId,
    source,
    purpose,
    rawHex: toHex(row.raw),
    airTimeMs: ms,
    queuedAtMs: row.queuedAt.getTime(),
    ...(row.handedAt ? { handedAtMs: row.handedAt.getTime() } : {}),
    state,
    echoes,
  };
}
