import { Inject, Injectable } from '@nestjs/common';
import { fromHex, fromLatin1, toHex, toLatin1 } from '@mistpeak/core/bits/octets';
import { shifted, shiftedReceived, type Outgoing, type Received } from '@mistpeak/core/messages/entries';
import type { MessageSettings } from '@mistpeak/contract/messages';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';

/** As it is kept: times since 1970, the text as octets, since a heard one may hold anything. */
type KeptReceived = Omit<Received, 'text'> & { readonly textHex: string; readonly throughGate?: string };

export type HeardMessage = Received & { readonly throughGate?: string };
export type SentMessage = Outgoing & { readonly isAutomatic?: boolean };

export interface KeptBook {
  readonly numbered: number;
  readonly settings: MessageSettings | null;
  readonly version: number;
  readonly outgoing: readonly SentMessage[];
  readonly received: readonly HeardMessage[];
  readonly readUpTo: Readonly<Record<string, number>>;
}

/** The two clocks drift apart by less between two looks, unless somebody sets one. */
const WAS_SET_MS = 1000;

/** The messages in the database. In memory they go by the clock that nobody sets; here by the time of day. */
@Injectable()
export class MessageStore {
  private aheadMs = 0;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
  ) {}

  /** From the time of the book's clock to the time of day: the same number until somebody sets the clock. */
  toWallMs(): number {
    const now = this.clock.nowMs() - this.clock.upMs();
    if (Math.abs(now - this.aheadMs) > WAS_SET_MS) this.aheadMs = Math.round(now);
    return this.aheadMs;
  }

  /** The newest of each, the oldest first. */
  async read(most: number): Promise<KeptBook> {
    const newest = <Entry>(table: string): Promise<Entry[]> =>
      this.database
        .query<{ entry: Entry }[]>(`SELECT entry FROM ${table} ORDER BY at DESC LIMIT $1`, [most])
        .then((rows) => rows.map(({ entry }) => entry).reverse());
    const [book] = await this.database.query<
      { numbered: number; settings: MessageSettings | null; version: number }[]
    >('SELECT numbered, settings, version FROM message_book');
    const read = await this.database.query<{ conversation: string; at: Date }[]>(
      'SELECT conversation, at FROM message_read',
    );
    const byMs = -this.toWallMs();
    return {
      numbered: book?.numbered ?? 0,
      settings: book?.settings ?? null,
      version: book?.version ?? 0,
      outgoing: (await newest<SentMessage>('message_outgoing')).map((one) => shifted(one, byMs)),
      received: (await newest<KeptReceived>('message_received')).map(({ textHex, ...one }) =>
        shiftedReceived({ ...one, text: toLatin1(fromHex(textHex) as Uint8Array) }, byMs),
      ),
      readUpTo: Object.fromEntries(read.map(({ conversation, at }) => [conversation, at.getTime()])),
    };
  }

  /** Resolves when it is written, or waits for a database that is away: then false. */
  keep(message: SentMessage, numbered: number): Promise<boolean> {
    const entry = shifted(message, this.toWallMs());
    return this.deferred.write(
      `WITH counted AS (UPDATE message_book SET numbered = greatest(numbered, $4))
       INSERT INTO message_outgoing (id, at, entry) VALUES ($1, $2, $3::jsonb)
       ON CONFLICT (id) DO UPDATE SET entry = excluded.entry`,
      [message.id, isoOf(entry.writtenAtMs), JSON.stringify(entry), numbered],
    );
  }

  async keepReceived({ text, ...message }: HeardMessage): Promise<void> {
    const entry = {
      ...shiftedReceived({ ...message, text }, this.toWallMs()),
      text: undefined,
      textHex: toHex(fromLatin1(text)),
    };
    await this.deferred.write(
      `INSERT INTO message_received (id, at, entry) VALUES ($1, $2, $3::jsonb)
       ON CONFLICT (id) DO UPDATE SET entry = excluded.entry`,
      [message.id, isoOf(entry.atMs), JSON.stringify(entry)],
    );
  }

  async saveSettings(settings: MessageSettings, version: number): Promise<void> {
    await this.database.query('UPDATE message_book SET settings = $1, version = $2', [
      JSON.stringify(settings),
      version,
    ]);
  }

  async keepRead(conversation: string, atMs: number): Promise<void> {
    await this.database.query(
      `INSERT INTO message_read (conversation, at) VALUES ($1, $2)
       ON CONFLICT (conversation) DO UPDATE SET at = greatest(message_read.at, excluded.at)`,
      [conversation, isoOf(atMs)],
    );
  }
}

const isoOf = (ms: number): string => new Date(ms).toISOString();
