import { Injectable } from '@nestjs/common';
import type { GatewayHistory, MailLine, MailRunView, SelfTestView } from '@mistpeak/contract/mail-session';
import { DataSource } from 'typeorm';
import { DeferredWrites } from '../database/deferred-writes.js';

/** Sessions of radio mail, every attempt with its lines, and self-tests. */
@Injectable()
export class MailRunStore {
  constructor(
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
  ) {}

  async keep(view: MailRunView, lines: readonly MailLine[]): Promise<void> {
    await this.deferred.write(
      `INSERT INTO mail_run (id, started_at, ended_at, view, lines) VALUES ($1, $2, $3, $4::jsonb, $5::jsonb)
       ON CONFLICT (id) DO UPDATE SET ended_at = excluded.ended_at, view = excluded.view, lines = excluded.lines`,
      [
        view.id,
        isoOf(view.startedAtMs),
        view.endedAtMs === undefined ? null : isoOf(view.endedAtMs),
        JSON.stringify(view),
        JSON.stringify(lines),
      ],
    );
  }

  /** The newest, the oldest first. */
  async newest(most: number): Promise<MailRunView[]> {
    const rows = await this.database.query<{ view: MailRunView }[]>(
      'SELECT view FROM mail_run ORDER BY started_at DESC LIMIT $1',
      [most],
    );
    return rows.map(({ view }) => view).reverse();
  }

  async find(id: string): Promise<{ view: MailRunView; lines: MailLine[] } | undefined> {
    const [row] = await this.database.query<{ view: MailRunView; lines: MailLine[] }[]>(
      'SELECT view, lines FROM mail_run WHERE id = $1',
      [id],
    );
    return row;
  }

  /** All attempts of the last sessions by gateway, newest first. */
  history(runs: readonly MailRunView[]): GatewayHistory[] {
    const by = new Map<string, MailRunView['attempts'][number][]>();
    for (const run of runs)
      for (const attempt of run.attempts)
        if (attempt.result !== 'under way')
          by.set(attempt.gateway, [attempt, ...(by.get(attempt.gateway) ?? [])]);
    return [...by].map(([gateway, attempts]) => ({ gateway, attempts: attempts.slice(0, 20) }));
  }

  async selfTests(): Promise<SelfTestView[]> {
    const rows = await this.database.query<
      {
        number: number;
        tag: string;
        mid: string;
        chain: string;
        at: Date;
        sent_at: Date | null;
        answered_at: Date | null;
      }[]
    >('SELECT * FROM mail_self_test ORDER BY number DESC LIMIT 50');
    return rows.map(({ number, tag, mid, chain, at, sent_at, answered_at }) => ({
      number,
      tag,
      mid,
      chain,
      atMs: at.getTime(),
      ...(sent_at ? { sentAtMs: sent_at.getTime() } : {}),
      ...(answered_at ? { answeredAtMs: answered_at.getTime() } : {}),
    }));
  }

  async nextSelfTest(): Promise<number> {
    const [row] = await this.database.query<{ number: number }[]>(
      `SELECT nextval(pg_get_serial_sequence('mail_self_test', 'number'))::int AS number`,
    );
    return row?.number ?? 1;
  }

  async addSelfTest({ number, tag, mid, chain, atMs }: SelfTestView): Promise<void> {
    await this.database.query(
      'INSERT INTO mail_self_test (number, tag, mid, chain, at) VALUES ($1, $2, $3, $4, $5)',
      [number, tag, mid, chain, isoOf(atMs)],
    );
  }

  async noteSelfTest(number: number, column: 'sent_at' | 'answered_at', atMs: number): Promise<void> {
    await this.deferred.write(`UPDATE mail_self_test SET ${column} = $2 WHERE number = $1`, [
      number,
      isoOf(atMs),
    ]);
  }
}

const isoOf = (ms: number): string => new Date(Math.round(ms)).toISOString();
