import { Injectable, Logger } from '@nestjs/common';
import { isDatabaseAway } from './away.js';
import { DatabaseSession } from './session.js';

const MOST_WAITING = 1000;

/** Writes about things that have happened already: made now, or as soon as the database is back, in order. */
@Injectable()
export class DeferredWrites {
  private readonly log = new Logger('database');
  private readonly waiting: (() => Promise<unknown>)[] = [];

  constructor(database: DatabaseSession) {
    database.onState((away) => {
      if (!away) void this.catchUp();
    });
  }

  async write(task: () => Promise<unknown>): Promise<void> {
    if (this.waiting.length > 0) return this.keep(task);
    await this.attempt(task);
  }

  private async catchUp(): Promise<void> {
    for (const task of this.waiting.splice(0)) await this.attempt(task);
  }

  private async attempt(task: () => Promise<unknown>): Promise<void> {
    try {
      await task();
    } catch (error) {
      if (isDatabaseAway(error)) this.keep(task);
      else this.log.error(error);
    }
  }

  private keep(task: () => Promise<unknown>): void {
    if (this.waiting.length < MOST_WAITING) this.waiting.push(task);
    else this.log.error('too many writes wait for the database: one is lost');
  }
}
