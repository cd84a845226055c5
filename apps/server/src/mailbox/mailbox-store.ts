import { Injectable } from '@nestjs/common';
import { fromLatin1, toHex, toLatin1 } from '@mistpeak/core/bits/octets';
import type { Letter } from '@mistpeak/core/mailbox/letters';
import type { MailboxSettings } from '@mistpeak/contract/mailbox';
import { DataSource } from 'typeorm';
import { DeferredWrites } from '../database/deferred-writes.js';

/** A letter with the id of its row; texts one character per octet. */
export type KeptLetter = Letter & { readonly id: string };
export type HalfLetter = Omit<KeptLetter, 'number' | 'isRead'>;

interface Row {
  readonly id: string;
  readonly number: number | null;
  readonly sender: string;
  readonly addressee: string;
  readonly subject: Buffer;
  readonly text: Buffer;
  readonly at: Date;
  readonly is_read: boolean;
}

const MOST_HALF = 50;

/** The mailbox in the database. What a caller deletes is hidden from then on. */
@Injectable()
export class MailboxStore {
  constructor(
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
  ) {}

  async read(): Promise<{
    settings: MailboxSettings | null;
    version: number;
    numbered: number;
    letters: KeptLetter[];
    half: HalfLetter[];
  }> {
    const [box] = await this.database.query<
      { settings: MailboxSettings | null; version: number; numbered: number }[]
    >('SELECT settings, version, numbered FROM mailbox');
    const rows = await this.database.query<Row[]>(
      'SELECT * FROM mailbox_letter WHERE killed_at IS NULL AND number IS NOT NULL ORDER BY number',
    );
    const half = await this.database.query<Row[]>(
      'SELECT * FROM mailbox_letter WHERE killed_at IS NULL AND number IS NULL ORDER BY at DESC LIMIT $1',
      [MOST_HALF],
    );
    return {
      settings: box?.settings ?? null,
      version: box?.version ?? 0,
      numbered: box?.numbered ?? 0,
      letters: rows.map((row) => ({ ...halfOf(row), number: row.number ?? 0, isRead: row.is_read })),
      half: half.map(halfOf).reverse(),
    };
  }

  async saveSettings(settings: MailboxSettings, version: number): Promise<void> {
    await this.database.query('UPDATE mailbox SET settings = $1, version = $2', [
      JSON.stringify(settings),
      version,
    ]);
  }

  /** Numbers are never given twice. */
  keep(letter: HalfLetter, number: number | null, isRead: boolean): Promise<boolean> {
    const { id, from, to, subject, text, atMs } = letter;
    return this.deferred.write(
      `WITH counted AS (UPDATE mailbox SET numbered = greatest(numbered, coalesce($2, 0)))
       INSERT INTO mailbox_letter (id, number, sender, addressee, subject, text, at, is_read)
       VALUES ($1, $2, $3, $4, decode($5, 'hex'), decode($6, 'hex'), $7, $8::boolean) ON CONFLICT DO NOTHING`,
      [id, number, from, to, hexOf(subject), hexOf(text), new Date(atMs).toISOString(), String(isRead)],
    );
  }

  async noteRead(id: string): Promise<void> {
    await this.deferred.write('UPDATE mailbox_letter SET is_read = true WHERE id = $1', [id]);
  }

  async kill(id: string, atMs: number): Promise<void> {
    await this.deferred.write('UPDATE mailbox_letter SET killed_at = $2 WHERE id = $1', [
      id,
      new Date(atMs).toISOString(),
    ]);
  }
}

function halfOf({ id, sender, addressee, subject, text, at }: Row): HalfLetter {
  return {
    id,
    from: sender,
    to: addressee,
    subject: toLatin1(subject),
    text: toLatin1(text),
    atMs: at.getTime(),
  };
}

const hexOf = (text: string): string => toHex(fromLatin1(text));
