import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Not, Repository, type FindOperator } from 'typeorm';
import { toHex } from '@mistpeak/core/bits/octets';
import { ECHO_WINDOW_MS } from '@mistpeak/core/transmitting/echo';
import { newestOfEach, SESSION_PURPOSE, SHOWN_OF_EACH } from '@mistpeak/core/transmitting/newest-of-each';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { prepared } from '../database/prepared.js';
import { LiveService } from '../live/live.service.js';
import { TransmissionEntity } from './transmitting.entity.js';

/** What became of frames within this time is written as one statement. */
const WRITE_EVERY_MS = 100;

const queuedAtMs = ({ queuedAt }: TransmissionEntity): number => queuedAt.getTime();

/** What we sent: shown at once, written behind, several at a time. Nothing on the way to the wire waits for it. */
@Injectable()
export class TransmissionLog implements OnApplicationBootstrap, OnModuleDestroy {
  private recent: TransmissionEntity[] = [];
  /** Frames whose echo may still come, by id, in the order in which they were queued. */
  private readonly awaited = new Map<string, { readonly row: TransmissionEntity; readonly upMs: number }>();
  private readonly unwritten = new Map<string, TransmissionEntity>();
  private cancelWriting: (() => void) | undefined;

  constructor(
    @InjectRepository(TransmissionEntity) private readonly rows: Repository<TransmissionEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly live: LiveService,
    private readonly deferred: DeferredWrites,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('transmissions', () => this.recent.map(viewOf));
    // What was queued when the last process ended is never sent by the next one.
    await this.rows.update({ state: 'queued' }, { state: 'abandoned' });
    const last = (purpose: string | FindOperator<string>): Promise<TransmissionEntity[]> =>
      this.rows.find({ where: { purpose }, order: { queuedAt: 'DESC' }, take: SHOWN_OF_EACH });
    this.recent = newestOfEach(
      [...(await last(SESSION_PURPOSE)), ...(await last(Not(SESSION_PURPOSE)))],
      queuedAtMs,
    );
  }

  async onModuleDestroy(): Promise<void> {
    await this.write();
  }

  /** As it is now, which the database may not have heard yet. */
  async find(id: string): Promise<TransmissionEntity | null> {
    const known = this.unwritten.get(id) ?? this.recent.find((row) => row.id === id);
    return known ?? (await this.rows.findOneBy({ id }));
  }

  /** False when the same request has been taken already: two that arrive together send once. */
  async claim(row: TransmissionEntity): Promise<boolean> {
    const { id, linkId, source, purpose, raw, airTimeMs, queuedAt, state } = row;
    const given = [id, linkId, source, purpose, raw, airTimeMs, queuedAt, state];
    return (await prepared(this.rows.manager.connection, CLAIM, given)).length > 0;
  }

  /** As it is now: for the pages, and for the database when its turn comes. */
  note(row: TransmissionEntity): void {
    this.recent = newestOfEach([row, ...this.recent.filter(({ id }) => id !== row.id)], queuedAtMs);
    this.live.publish({ kind: 'transmission', data: viewOf(row) });
    this.unwritten.set(row.id, row);
    this.cancelWriting ??= this.clock.after(WRITE_EVERY_MS, () => void this.write());
  }

  /** Its echo may come for two minutes, whatever else is sent meanwhile. */
  await(row: TransmissionEntity): void {
    const upMs = this.clock.upMs();
    for (const [id, one] of this.awaited) {
      if (upMs - one.upMs < ECHO_WINDOW_MS) break;
      this.awaited.delete(id);
    }
    this.awaited.set(row.id, { row, upMs });
  }

  awaiting(id: string): TransmissionEntity | undefined {
    return this.awaited.get(id)?.row;
  }

  private async write(): Promise<void> {
    this.cancelWriting?.();
    this.cancelWriting = undefined;
    if (this.unwritten.size === 0) return;
    const rows = [...this.unwritten.values()].map(columnsOf);
    this.unwritten.clear();
    await this.deferred.write(
      `${INSERT}
       ON CONFLICT (id) DO UPDATE
         SET state = excluded.state, handed_at = excluded.handed_at, echoes = excluded.echoes, gates = excluded.gates`,
      [JSON.stringify(rows)],
    );
  }
}

const INSERT = `
  INSERT INTO transmission (id, link_id, source, purpose, raw, air_time_ms, queued_at, handed_at, state, echoes, gates)
  SELECT t.id, link_id, source, purpose, decode(raw, 'hex'), air_time_ms, queued_at, handed_at, state, echoes, gates
  FROM jsonb_to_recordset($1::jsonb) AS t (id uuid, link_id uuid, source text, purpose text, raw text,
    air_time_ms double precision, queued_at timestamptz, handed_at timestamptz, state text, echoes jsonb, gates jsonb)`;

/**
 * Committed without waiting for the disk (PostgreSQL, "Asynchronous Commit"): only a crash of the database itself could lose the
 * claim, while this process still knows the command; and after a start of its own the lock is shut.
 */
const CLAIM = {
  name: 'claim',
  text: `
    INSERT INTO transmission (id, link_id, source, purpose, raw, air_time_ms, queued_at, state, echoes)
    SELECT $1::uuid, $2::uuid, $3::text, $4::text, $5::bytea, $6::double precision, $7::timestamptz, $8::text, '[]'::jsonb
    FROM (SELECT set_config('synchronous_commit', 'off', true)) AS at_once
    ON CONFLICT DO NOTHING RETURNING id`,
};

function columnsOf(row: TransmissionEntity): Record<string, unknown> {
  return {
    id: row.id,
    link_id: row.linkId,
    source: row.source,
    purpose: row.purpose,
    raw: toHex(row.raw),
    air_time_ms: row.airTimeMs,
    queued_at: row.queuedAt.toISOString(),
    handed_at: row.handedAt?.toISOString() ?? null,
    state: row.state,
    echoes: row.echoes,
    gates: row.gates,
  };
}

export function viewOf(row: TransmissionEntity): TransmissionView {
  const { id, linkId, source, purpose, airTimeMs: ms, state, echoes, gates } = row;
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
    gates,
  };
}
