import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import type { BackupSummary, OrderBackup, RestoreBackup, RestoredView } from '@mistpeak/contract/backup';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource, type QueryRunner } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { LiveService } from '../live/live.service.js';
import { MailAccount } from '../mail/account.service.js';
import { keyOfPassphrase, newSalt, open, seal } from '../mail/secrets.js';
import { ProblemException } from '../problems/problem.js';
import { Partitions } from '../record/partitions.js';
import {
  BrokenBackup,
  FORMAT,
  readLines,
  VERSION,
  writeLines,
  type Head,
  type Line,
  type Row,
} from './backup-file.js';
import { advanceSequences, columnsOf, HEARD_TABLES, quoted, SECRET_TABLES, tablesInOrder } from './tables.js';

const ROWS_AT_ONCE = 500;
const TICKET_MS = 60_000;

/** What is sealed: rows of the tables with secrets, and the password of the mail account. */
interface Secrets {
  readonly tables: Readonly<Record<string, readonly Row[]>>;
  readonly mailPassword?: string;
}

/** All of it as one file, of a running server; and back into an installation, this one or another. */
@Injectable()
export class BackupService implements OnModuleDestroy {
  private readonly tickets = new Map<string, OrderBackup>();
  private readonly taken = new Map<string, string>();
  private readonly folder = join(tmpdir(), `mistpeak-backup-${randomUUID()}`);

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    private readonly account: MailAccount,
    private readonly database: DataSource,
    private readonly live: LiveService,
  ) {}

  async onModuleDestroy(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
  }

  order(order: OrderBackup): string {
    const ticket = randomUUID();
    this.tickets.set(ticket, order);
    this.clock.after(TICKET_MS, () => this.tickets.delete(ticket));
    return ticket;
  }

  /** gzip; the rows are those of one moment, whatever is written meanwhile. */
  fetch(ticket: string): Readable {
    const order = this.tickets.get(ticket);
    if (!order) throw new ProblemException('not-found');
    this.tickets.delete(ticket);
    const zipped = createGzip();
    Readable.from(writeLines(this.lines(order)))
      .once('error', (error) => zipped.destroy(error))
      .pipe(zipped);
    return zipped;
  }

  /** Kept aside and read through to its end; nothing of it is taken yet. */
  async take(stream: Readable): Promise<BackupSummary> {
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    const id = randomUUID();
    const file = join(this.folder, id);
    await pipeline(stream, createWriteStream(file, { mode: 0o600 }));
    try {
      const summary = await this.look(id, file);
      this.taken.set(id, file);
      return summary;
    } catch (error) {
      await rm(file, { force: true });
      throw error instanceof BrokenBackup
        ? new ProblemException('field-refused', { file: error.message })
        : error;
    }
  }

  /** Everything that is here makes room for it, in one transaction: all of it or nothing. */
  async restore({ id, passphrase }: RestoreBackup): Promise<RestoredView> {
    const file = this.taken.get(id);
    if (file === undefined) throw new ProblemException('not-found');
    const runner = this.database.createQueryRunner();
    try {
      await runner.startTransaction();
      const restored = await this.write(runner, file, passphrase);
      await runner.commitTransaction();
      this.taken.delete(id);
      return restored;
    } catch (error) {
      await runner.rollbackTransaction();
      throw error;
    } finally {
      await runner.release();
    }
  }

  /** What every part of the server holds in mind is of before: it ends without a last word, and the launcher starts it again. */
  startAgain(): void {
    this.configuration.startAgain?.();
  }

  private async *lines({
    withFrames,
    passphrase,
  }: OrderBackup): AsyncGenerator<Exclude<Line, { end: unknown }>> {
    const runner = this.database.createQueryRunner();
    try {
      await runner.startTransaction('REPEATABLE READ');
      yield { head: await this.head(runner, withFrames) };
      const secrets: Record<string, Row[]> = {};
      for (const table of await tablesInOrder(runner)) {
        if (!withFrames && HEARD_TABLES.has(table)) continue;
        for await (const row of rowsOf(runner, table)) {
          if (SECRET_TABLES.has(table)) (secrets[table] ??= []).push(row);
          else yield { table, row: table === 'mail' ? { ...row, account: null } : row };
        }
      }
      if (passphrase !== undefined) {
        const mailPassword = this.account.secret();
        const all: Secrets = { tables: secrets, ...(mailPassword === undefined ? {} : { mailPassword }) };
        const salt = newSalt();
        yield { secrets: seal(JSON.stringify(all), keyOfPassphrase(passphrase, salt), salt) };
      }
      await runner.commitTransaction();
    } finally {
      if (runner.isTransactionActive) await runner.rollbackTransaction();
      await runner.release();
    }
  }

  private async head(runner: QueryRunner, withFrames: boolean): Promise<Head> {
    const [last] = await runner.manager.query<{ name: string }[]>(
      'SELECT name FROM migrations ORDER BY timestamp DESC LIMIT 1',
    );
    return {
      format: FORMAT,
      version: VERSION,
      migration: last?.name ?? '',
      atMs: Math.floor(this.clock.nowMs()),
      call: this.live.snapshot().operator?.call ?? '',
      withFrames,
    };
  }

  private async look(id: string, file: string): Promise<BackupSummary> {
    let head: Head | undefined;
    let [rows, hasSecrets] = [0, false];
    for await (const line of readLines(createReadStream(file))) {
      if ('head' in line) head = line.head;
      else if ('row' in line) rows++;
      else hasSecrets = true;
    }
    if (!head) throw new BrokenBackup('it is no backup of Mistpeak');
    const known: { name: string }[] = await this.database.query('SELECT name FROM migrations');
    if (!known.some(({ name }) => name === head.migration))
      throw new BrokenBackup('it was made by a newer Mistpeak than this one');
    const { atMs, call, withFrames } = head;
    return { id, atMs, call, rows, withFrames, hasSecrets };
  }

  private async write(
    runner: QueryRunner,
    file: string,
    passphrase: string | undefined,
  ): Promise<RestoredView> {
    const tables = await tablesInOrder(runner);
    // Whoever is let in here stays let in: else nobody could look at what came.
    const kept = tables.filter((one) => !SECRET_TABLES.has(one));
    let [rows, leftOut] = [0, 0];
    let secrets: RestoredView['secrets'] = 'not in it';
    let waiting: { table: string; rows: Row[] } | undefined;
    const flush = async (): Promise<void> => {
      if (waiting) await this.insert(runner, waiting.table, waiting.rows);
      waiting = undefined;
    };
    for await (const line of readLines(createReadStream(file))) {
      if ('head' in line) {
        // Without what was heard in it, what is here of that stays.
        const emptied = line.head.withFrames ? kept : kept.filter((one) => !HEARD_TABLES.has(one));
        await runner.query(`TRUNCATE ${[...emptied, 'record_stretch'].map(quoted).join(', ')} CASCADE`);
      } else if ('secrets' in line) {
        await flush();
        if (passphrase === undefined) secrets = 'left out: no passphrase';
        else {
          await this.writeSecrets(runner, line.secrets, passphrase);
          secrets = 'taken';
        }
      } else if (!tables.includes(line.table)) leftOut++;
      else {
        if (waiting && (waiting.table !== line.table || waiting.rows.length >= ROWS_AT_ONCE)) await flush();
        waiting ??= { table: line.table, rows: [] };
        waiting.rows.push(line.row);
        rows++;
      }
    }
    await flush();
    for (const table of tables) await advanceSequences(runner, table);
    return { rows, leftOut, secrets };
  }

  private async writeSecrets(
    runner: QueryRunner,
    sealed: Extract<Line, { secrets: unknown }>['secrets'],
    passphrase: string,
  ): Promise<void> {
    const text = open(sealed, keyOfPassphrase(passphrase, Buffer.from(sealed.salt ?? '', 'hex')));
    if (text === undefined) throw new ProblemException('passphrase-wrong');
    const { tables, mailPassword } = JSON.parse(text) as Secrets;
    await runner.query('DELETE FROM role_password');
    for (const [table, rows] of Object.entries(tables))
      if (SECRET_TABLES.has(table)) await this.insert(runner, table, rows);
    if (mailPassword !== undefined)
      await runner.query('UPDATE mail SET account = $1', [
        JSON.stringify(this.account.sealedHere(mailPassword) ?? { keeping: 'asked' }),
      ]);
  }

  /** By the columns that both know: what is new since has its usual value. */
  private async insert(runner: QueryRunner, table: string, rows: readonly Row[]): Promise<void> {
    const [first] = rows;
    if (!first) return;
    if (table === 'frames') {
      const partitions = new Partitions();
      await partitions.ensure(
        runner.manager,
        rows.map(({ heard_at }) => Date.parse(String(heard_at))),
      );
    }
    const columns = (await columnsOf(runner, table)).filter((name) => name in first).map(quoted);
    await runner.query(
      `INSERT INTO ${quoted(table)} (${columns.join(', ')})
       SELECT ${columns.join(', ')} FROM jsonb_populate_recordset(NULL::${quoted(table)}, $1::jsonb) ON CONFLICT DO NOTHING`,
      [JSON.stringify(rows)],
    );
  }
}

/** All rows of a table, some at a time. */
async function* rowsOf(runner: QueryRunner, table: string): AsyncGenerator<Row> {
  await runner.query(
    `DECLARE backup_rows CURSOR FOR SELECT to_jsonb(one) AS row FROM ${quoted(table)} AS one`,
  );
  for (;;) {
    const rows = await runner.manager.query<{ row: Row }[]>(`FETCH ${ROWS_AT_ONCE} FROM backup_rows`);
    for (const { row } of rows) yield row;
    if (rows.length < ROWS_AT_ONCE) break;
  }
  await runner.query('CLOSE backup_rows');
}
