import { Injectable } from '@nestjs/common';
import { toHex } from '@mistpeak/core/bits/octets';
import type { SaidView, SessionFileView, SessionView } from '@mistpeak/contract/sessions';
import { DataSource } from 'typeorm';
import { DeferredWrites } from '../database/deferred-writes.js';

/** One that was open when its server went away. touchedAtMs: when it last lived. */
export interface LeftOpen {
  readonly view: SessionView;
  readonly touchedAtMs: number;
}

/** Sessions in the database: how each stands, and what was said, in order. */
@Injectable()
export class SessionStore {
  constructor(
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
  ) {}

  /** The newest, the oldest first. */
  async newest(most: number): Promise<SessionView[]> {
    const rows = await this.database.query<{ view: SessionView }[]>(
      "SELECT view FROM session WHERE ended_at IS NOT NULL AND view->>'purpose' <> 'mail' ORDER BY opened_at DESC LIMIT $1",
      [most],
    );
    return rows.map(({ view }) => view).reverse();
  }

  async leftOpen(linkId: string): Promise<LeftOpen[]> {
    const rows = await this.database.query<{ view: SessionView; touched_at: Date }[]>(
      'SELECT view, touched_at FROM session WHERE link_id = $1 AND ended_at IS NULL ORDER BY opened_at',
      [linkId],
    );
    return rows.map(({ view, touched_at }) => ({ view, touchedAtMs: touched_at.getTime() }));
  }

  async find(id: string): Promise<SessionView | undefined> {
    const [row] = await this.database.query<{ view: SessionView }[]>(
      'SELECT view FROM session WHERE id = $1',
      [id],
    );
    return row?.view;
  }

  /** How it stands now. Resolves when it is written, or waits for a database that is away: then false. */
  keep(view: SessionView, nowMs: number): Promise<boolean> {
    return this.deferred.write(
      `INSERT INTO session (id, link_id, opened_at, touched_at, ended_at, view) VALUES ($1, $2, $3, $4, $5, $6::jsonb)
       ON CONFLICT (id) DO UPDATE SET touched_at = excluded.touched_at, ended_at = excluded.ended_at, view = excluded.view`,
      [
        view.id,
        view.linkId,
        isoOf(view.openedAtMs),
        isoOf(nowMs),
        view.endedAtMs === undefined ? null : isoOf(view.endedAtMs),
        JSON.stringify(view),
      ],
    );
  }

  keepSaid({ sessionId, seq, side, atMs, hex, isFile, isSecret }: SaidView): Promise<boolean> {
    return this.deferred.write(
      `INSERT INTO session_said (session_id, seq, at, side, mark, octets) VALUES ($1, $2, $3, $4, $5, decode($6, 'hex'))
       ON CONFLICT DO NOTHING`,
      [sessionId, seq, isoOf(atMs), side, isFile ? 'file' : isSecret ? 'secret' : null, hex],
    );
  }

  async said(sessionId: string): Promise<SaidView[]> {
    const rows = await this.database.query<
      { seq: number; at: Date; side: SaidView['side']; mark: string | null; octets: Buffer }[]
    >('SELECT seq, at, side, mark, octets FROM session_said WHERE session_id = $1 ORDER BY seq', [sessionId]);
    return rows.map(({ seq, at, side, mark, octets }) => ({
      sessionId,
      seq,
      side,
      atMs: at.getTime(),
      hex: toHex(octets),
      ...(mark === 'file' ? { isFile: true } : {}),
      ...(mark === 'secret' ? { isSecret: true } : {}),
    }));
  }

  /** Sessions in which these octets stand, on one side, wherever they were cut; the newest first. */
  async search(octets: Uint8Array, most: number): Promise<SessionView[]> {
    // In the escape form (every octet has one) small and capital letters can be compared.
    const rows = await this.database.query<{ view: SessionView }[]>(
      `SELECT view FROM session WHERE view->>'purpose' <> 'mail' AND id IN (
         SELECT session_id FROM session_said GROUP BY session_id, side
         HAVING position(lower(encode($1::bytea, 'escape')) IN
           lower(encode(string_agg(octets, ''::bytea ORDER BY seq), 'escape'))) > 0
       ) ORDER BY opened_at DESC LIMIT $2`,
      [Buffer.from(octets), most],
    );
    return rows.map(({ view }) => view);
  }

  async keepFile({ id, sessionId, name, atMs }: SessionFileView, octets: Uint8Array): Promise<boolean> {
    return this.deferred.write(
      `INSERT INTO session_file (id, session_id, at, name, octets) VALUES ($1, $2, $3, $4, decode($5, 'hex'))
       ON CONFLICT DO NOTHING`,
      [id, sessionId, isoOf(atMs), name, toHex(octets)],
    );
  }

  async files(sessionId: string): Promise<SessionFileView[]> {
    const rows = await this.database.query<{ id: string; at: Date; name: string; octets: number }[]>(
      'SELECT id, at, name, length(octets) AS octets FROM session_file WHERE session_id = $1 ORDER BY at',
      [sessionId],
    );
    return rows.map(({ id, at, name, octets }) => ({ id, sessionId, name, octets, atMs: at.getTime() }));
  }

  async file(id: string): Promise<{ name: string; octets: Buffer } | undefined> {
    const [row] = await this.database.query<{ name: string; octets: Buffer }[]>(
      'SELECT name, octets FROM session_file WHERE id = $1',
      [id],
    );
    return row;
  }
}

const isoOf = (ms: number): string => new Date(Math.round(ms)).toISOString();
