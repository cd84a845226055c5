import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import pg from 'pg';
import { CONFIGURATION, type Configuration } from '../configuration.js';

const CHANNEL = 'mistpeak';
const LOCK_SPACE = 0x4d50;
const WATCH_EVERY_MS = 1000;
/** A machine that has just started many programs may let the first connection wait. */
const FIRST_TRIES = 10;
/** NOTIFY carries less than 8000 octets (PostgreSQL, "NOTIFY"). */
const LONGEST_NOTICE = 7900;

type NoticeHandler = (payload: string) => void;

/**
 * One long-lived connection of its own: it watches whether the database is there, holds this process's
 * advisory locks, and listens for notices of other processes. After an outage it takes its locks again.
 */
@Injectable()
export class DatabaseSession implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger('database');
  private client: pg.Client | undefined;
  private timer: NodeJS.Timeout | undefined;
  private isAway = false;
  private isWatching = false;
  private readonly locks = new Set<number>();
  private readonly stateHandlers: ((away: boolean) => void)[] = [];
  private readonly noticeHandlers: NoticeHandler[] = [];

  constructor(@Inject(CONFIGURATION) private readonly configuration: Configuration) {}

  async onModuleInit(): Promise<void> {
    await this.connectPatiently();
    this.timer = setInterval(() => void this.watch(), WATCH_EVERY_MS);
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.timer);
    const client = this.client;
    this.client = undefined;
    await client?.end().catch(() => undefined);
  }

  away(): boolean {
    return this.isAway;
  }

  onState(handler: (away: boolean) => void): void {
    this.stateHandlers.push(handler);
  }

  onNotice(handler: NoticeHandler): void {
    this.noticeHandlers.push(handler);
  }

  /** True when this process holds the lock now. key: any 31-bit number. */
  async tryLock(key: number): Promise<boolean> {
    const held = await this.query<{ held: boolean }>('SELECT pg_try_advisory_lock($1, $2) AS held', [
      LOCK_SPACE,
      key,
    ]);
    if (held[0]?.held) this.locks.add(key);
    return held[0]?.held ?? false;
  }

  async unlock(key: number): Promise<void> {
    if (!this.locks.delete(key)) return;
    await this.query('SELECT pg_advisory_unlock($1, $2)', [LOCK_SPACE, key]).catch(() => undefined);
  }

  /** Tells the other processes on this database; a notice that is too long is dropped by its sender, not here. */
  async notify(payload: string): Promise<void> {
    if (payload.length > LONGEST_NOTICE) throw new RangeError('the notice is too long');
    await this.query('SELECT pg_notify($1, $2)', [CHANNEL, payload]);
  }

  private async query<Row>(sql: string, values: unknown[]): Promise<Row[]> {
    if (!this.client) throw Object.assign(new Error('Connection terminated'), { code: '08006' });
    return (await this.client.query(sql, values)).rows as Row[];
  }

  private async connectPatiently(): Promise<void> {
    for (let tries = 1; ; tries++) {
      try {
        return await this.connect();
      } catch (error) {
        if (tries === FIRST_TRIES) throw error;
        this.log.warn('PostgreSQL does not answer yet');
        await new Promise((resolve) => setTimeout(resolve, WATCH_EVERY_MS));
      }
    }
  }

  private async connect(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.configuration.databaseUrl,
      connectionTimeoutMillis: 3000,
    });
    client.on('error', () => this.lost(client));
    client.on('end', () => this.lost(client));
    client.on('notification', ({ payload }) =>
      this.noticeHandlers.forEach((handler) => handler(payload ?? '')),
    );
    await client.connect();
    await client.query(`LISTEN ${CHANNEL}`);
    for (const key of this.locks)
      await client.query('SELECT pg_try_advisory_lock($1, $2)', [LOCK_SPACE, key]);
    this.client = client;
    this.setAway(false);
  }

  private lost(client: pg.Client): void {
    if (this.client !== client) return;
    this.client = undefined;
    this.setAway(true);
  }

  private async watch(): Promise<void> {
    if (this.isWatching) return;
    this.isWatching = true;
    try {
      if (this.client) await this.client.query('SELECT 1');
      else await this.connect();
    } catch {
      this.setAway(true);
    }
    this.isWatching = false;
  }

  private setAway(away: boolean): void {
    if (away === this.isAway) return;
    this.isAway = away;
    this.log.warn(away ? 'PostgreSQL does not answer: frames are kept in memory' : 'PostgreSQL is back');
    for (const handler of this.stateHandlers) handler(away);
  }
}
