import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { DatabaseSession } from './session.js';
import { Spool } from './spool.js';
import { troubleOf } from './trouble.js';

const MOST_WAITING = 1000;
/** Octets go as hex, and `decode($n, 'hex')` in the statement. */
type Value = string | number | null;

/** One SQL statement with its values: data, so that it can outlive the process. */
export interface Statement {
  readonly sql: string;
  readonly values: readonly Value[];
}

/**
 * Writes about things that have happened already: made now, or as soon as the database takes them, always in the order in
 * which they were asked for. What still waits when the process ends goes to the spool, and first of all to the next one's database.
 */
@Injectable()
export class DeferredWrites implements BeforeApplicationShutdown {
  private readonly log = new Logger('database');
  private readonly waiting: Statement[] = [];
  private readonly written = new WeakSet<Statement>();
  private running: Promise<void> | undefined;

  constructor(
    private readonly dataSource: DataSource,
    private readonly database: DatabaseSession,
    private readonly spool: Spool,
  ) {
    database.onState((away) => {
      if (!away) void this.catchUp();
    });
  }

  /** Called once, before anybody reads the tables. */
  async begin(): Promise<void> {
    this.waiting.unshift(...this.spool.take<Statement>('writes'));
    await this.catchUp();
  }

  async beforeApplicationShutdown(): Promise<void> {
    await this.catchUp();
    this.spool.keep('writes', this.waiting);
  }

  count(): number {
    return this.waiting.length;
  }

  /** True when it is written; false when it waits, or can never be. */
  async write(sql: string, values: readonly Value[]): Promise<boolean> {
    const statement = { sql, values };
    if (this.waiting.length >= MOST_WAITING)
      this.log.error('too many writes wait for the database: one is lost');
    else this.waiting.push(statement);
    if (!this.database.away()) await this.catchUp();
    return this.written.has(statement);
  }

  /** Whoever comes while one is at it waits for that one, which does all. */
  private async catchUp(): Promise<void> {
    if (this.waiting.length > 0) this.running ??= this.drain();
    await this.running;
  }

  private async drain(): Promise<void> {
    try {
      for (let next = this.waiting[0]; next; next = this.waiting[0]) {
        if (!(await this.isDone(next))) return;
        this.waiting.shift();
      }
    } finally {
      this.running = undefined;
    }
  }

  /** What the database will never take is dropped and told; what it does not take now is tried again. */
  private async isDone(statement: Statement): Promise<boolean> {
    try {
      await this.dataSource.query(statement.sql, [...statement.values]);
      this.written.add(statement);
      return true;
    } catch (error) {
      const trouble = troubleOf(error);
      if (trouble !== 'content' && trouble !== 'other') return false;
      this.log.error(error);
      return true;
    }
  }
}
