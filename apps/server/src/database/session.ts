import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import pg from 'pg';
import { every, type Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { answerWithin } from './answer-limit.js';
import { isStillOwner, NO_CONTACT, type Contact } from './ownership.js';

const CHANNEL = 'mistpeak';
/** The first number of each of our advisory locks. */
export const LOCK_SPACE = 0x4d50;
const WATCH_EVERY_MS = 1000;
/** By which processes of ours find each other in pg_stat_activity. */
const APPLICATION = 'mistpeak session';
const COUNT_OTHERS = `SELECT count(*)::int AS others FROM pg_stat_activity
  WHERE application_name = '${APPLICATION}' AND datname = current_database() AND pid <> pg_backend_pid()`;
/** A machine that has just started many programs may let the first connection wait. */
const FIRST_TRIES = 10;
/** NOTIFY carries less than 8000 octets (PostgreSQL, "NOTIFY"). */
const LONGEST_NOTICE = 7900;

/** A session whose server has stopped answering, and does not hang up, is given up after this long. */
const ANSWER_LIMIT_MS = 3000;

/** What processes on one database tell each other; from: the process that says it. */
interface Notice {
  readonly from: string;
  readonly kind: string;
  readonly data: unknown;
}
type NoticeHandler = (data: never) => void;

/** The server's process of one session, and when it began. */
interface Session {
  readonly pid: number;
  readonly begun: string;
}

/**
 * One long-lived connection of its own: it watches whether the database is there, holds this process's
 * advisory locks, and listens for notices of other processes. After an outage it asks for its locks again; one that
 * another process took meanwhile is lost, and that is told.
 */
@Injectable()
export class DatabaseSession implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger('database');
  private client: pg.Client | undefined;
  private stopWatching = (): void => undefined;
  private isAway = false;
  private contact: Contact = NO_CONTACT;
  private isWatching = false;
  private asked: Promise<unknown> = Promise.resolve();
  private readonly locks = new Set<number>();
  private readonly process = randomUUID();
  private session: Session | undefined;
  private readonly stateHandlers: ((away: boolean) => void)[] = [];
  private readonly lostHandlers: ((key: number) => void)[] = [];
  private readonly noticeHandlers = new Map<string, NoticeHandler[]>();

  constructor(
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async onModuleInit(): Promise<void> {
    await this.connectPatiently();
    this.stopWatching = every(this.clock, WATCH_EVERY_MS, () => void this.watch());
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopWatching();
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

  /** Calls with what other processes say of that kind; what this process says does not come back. */
  onNotice<Data>(kind: string, handler: (data: Data) => void): void {
    this.noticeHandlers.set(kind, [...(this.noticeHandlers.get(kind) ?? []), handler]);
  }

  /** Calls with the key of a lock that another process took while the database was away. */
  onLost(handler: (key: number) => void): void {
    this.lostHandlers.push(handler);
  }

  /** Whether this process certainly holds the lock now: not while the session that held it is gone. */
  holds(key: number): boolean {
    return this.client !== undefined && !this.isAway && this.locks.has(key);
  }

  /** Whether nobody else can own the lock now: also while the database is away, as long as that is certain. */
  owns(key: number): boolean {
    return this.locks.has(key) && (this.holds(key) || isStillOwner(this.contact, this.clock.upMs()));
  }

  /** True when this process holds the lock now. key: any 31-bit number. */
  async tryLock(key: number): Promise<boolean> {
    // PostgreSQL counts: a lock taken twice would have to be given back twice.
    if (this.holds(key)) return true;
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
  async notify(kind: string, data: unknown): Promise<void> {
    const payload = JSON.stringify({ from: this.process, kind, data } satisfies Notice);
    if (payload.length > LONGEST_NOTICE) throw new RangeError('the notice is too long');
    await this.query('SELECT pg_notify($1, $2)', [CHANNEL, payload]);
  }

  private takeNotice(payload: string): void {
    const { from, kind, data } = JSON.parse(payload) as Notice;
    if (from === this.process) return;
    for (const handler of this.noticeHandlers.get(kind) ?? []) handler(data as never);
  }

  private async query<Row>(sql: string, values: unknown[]): Promise<Row[]> {
    const { client } = this;
    if (!client) throw Object.assign(new Error('Connection terminated'), { code: '08006' });
    return this.oneByOne(() => ask<Row>(client, sql, values));
  }

  /** A connection carries one question at a time. */
  private oneByOne<Answer>(ask: () => Promise<Answer>): Promise<Answer> {
    const answer = this.asked.then(ask);
    this.asked = answer.catch(() => undefined);
    return answer;
  }

  private async connectPatiently(): Promise<void> {
    for (let tries = 1; ; tries++) {
      try {
        return await this.connect();
      } catch (error) {
        if (tries === FIRST_TRIES) throw error;
        this.log.warn('PostgreSQL does not answer yet');
        await new Promise<void>((resolve) => void this.clock.after(WATCH_EVERY_MS, resolve));
      }
    }
  }

  private async connect(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.configuration.databaseUrl,
      connectionTimeoutMillis: ANSWER_LIMIT_MS,
      application_name: APPLICATION,
    });
    client.on('error', () => this.lost(client));
    client.on('end', () => this.lost(client));
    client.on('notification', ({ payload }) => this.takeNotice(payload ?? '{}'));
    try {
      await client.connect();
      await ask(client, `LISTEN ${CHANNEL}`);
      await this.takeLocksAgain(client);
      await this.countOthers(client);
    } catch (error) {
      void client.end().catch(() => undefined);
      throw error;
    }
    this.client = client;
    this.setAway(false);
  }

  /**
   * The session before this one may still stand at the server, which has not noticed its end, and would hold our locks
   * against us: it is ended first. backend_start, since numbers of processes are used again.
   */
  private async takeLocksAgain(client: pg.Client): Promise<void> {
    if (this.session)
      await ask(
        client,
        'SELECT pg_terminate_backend(pid, 1000) FROM pg_stat_activity WHERE pid = $1 AND backend_start = $2::timestamptz',
        [this.session.pid, this.session.begun],
      );
    const [me] = await ask<Session>(
      client,
      'SELECT pid, backend_start::text AS begun FROM pg_stat_activity WHERE pid = pg_backend_pid()',
    );
    this.session = me;
    for (const key of [...this.locks]) {
      const sql = 'SELECT pg_try_advisory_lock($1, $2) AS held';
      const [row] = await ask<{ held: boolean }>(client, sql, [LOCK_SPACE, key]);
      if (row?.held || !this.locks.delete(key)) continue;
      for (const handler of this.lostHandlers) handler(key);
    }
  }

  private async countOthers(client: pg.Client): Promise<void> {
    // As of the asking: whatever happened since is not in the answer.
    const upMs = this.clock.upMs();
    const [row] = await ask<{ others: number }>(client, COUNT_OTHERS);
    this.contact = { upMs, others: row?.others ?? Infinity };
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
      const { client } = this;
      if (client) await this.oneByOne(() => this.countOthers(client));
      else await this.connect();
    } catch {
      // A session that does not answer is let go: its locks are asked for anew by the next one.
      const client = this.client;
      if (client) this.lost(client);
      void client?.end().catch(() => undefined);
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

async function ask<Row>(client: pg.Client, sql: string, values: readonly unknown[] = []): Promise<Row[]> {
  const { rows } = await answerWithin(ANSWER_LIMIT_MS, client.query(sql, [...values]));
  return rows as Row[];
}
