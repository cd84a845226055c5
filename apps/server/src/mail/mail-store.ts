import { Injectable } from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import { pack } from '@mistpeak/core/lzhuf/container';
import { readLetter } from '@mistpeak/core/mail/letter';
import { readMessage } from '@mistpeak/core/mail/message';
import { threadOf } from '@mistpeak/core/mail/queue';
import type { Precedence } from '@mistpeak/core/mail/proposal';
import type { Box, MailRow } from '@mistpeak/contract/mail';
import { DataSource } from 'typeorm';
import { DeferredWrites } from '../database/deferred-writes.js';

/** What is kept of a message beside its octets. */
export interface Kept {
  readonly id: string;
  readonly box: Box;
  readonly folder?: string;
  readonly isOurs: boolean;
  readonly isRead: boolean;
  readonly octets: Uint8Array;
  /** When it was written, received or last edited, ms since 1970. */
  readonly atMs: number;
  readonly precedence: Precedence;
  readonly onlyInternet: boolean;
  readonly afterMs?: number | undefined;
  readonly note?: string | undefined;
  readonly beyondLatin1?: MailRow['beyondLatin1'] | undefined;
}

interface Row {
  readonly id: string;
  readonly mid: string;
  readonly box: Box;
  readonly folder: string | null;
  readonly row: Omit<
    MailRow,
    'id' | 'mid' | 'box' | 'folder' | 'isRead' | 'answeredAtMs' | 'version' | 'atMs'
  >;
  readonly at: Date;
  readonly is_read: boolean;
  readonly answered_at: Date | null;
  readonly version: number;
}

const COLUMNS = 'id, mid, box, folder, row, at, is_read, answered_at, version';
/** Words beyond that are not searched for. */
const MOST_WORDS = 200_000;
const LONGEST_QUERY = 200;

/** Messages in the database, each with its octets as they travel. */
@Injectable()
export class MailStore {
  constructor(
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
  ) {}

  /** Newest first; words: all of them, by their beginnings. */
  async list(
    box: Box | undefined,
    {
      folder,
      words = '',
      before,
      most,
    }: { folder?: string | undefined; words?: string; before?: number | undefined; most: number },
  ): Promise<MailRow[]> {
    const query = queryOf(words);
    const rows = await this.database.query<Row[]>(
      `SELECT ${COLUMNS} FROM mail_message
       WHERE ($1::text IS NULL OR box = $1) AND ($2::text IS NULL OR folder = $2)
         AND ($3::text IS NULL OR words @@ to_tsquery('simple', $3)) AND ($4::timestamptz IS NULL OR at < $4)
       ORDER BY at DESC, id LIMIT $5`,
      [box ?? null, folder ?? null, query ?? null, before === undefined ? null : isoOf(before), most],
    );
    return rows.map(rowOf);
  }

  async find(id: string): Promise<{ row: MailRow; octets: Uint8Array; isOurs: boolean } | undefined> {
    const [row] = await this.database.query<(Row & { octets: Buffer; is_ours: boolean })[]>(
      `SELECT ${COLUMNS}, octets, is_ours FROM mail_message WHERE id = $1`,
      [id],
    );
    return row && { row: rowOf(row), octets: new Uint8Array(row.octets), isOurs: row.is_ours };
  }

  /** Resolves when it is kept. False: the database did not take it, or has it already; then nothing was changed. */
  async add(kept: Kept): Promise<boolean> {
    const { mid, row, words } = described(kept);
    const added = await this.database.query<{ id: string }[]>(
      `INSERT INTO mail_message (id, mid, is_ours, box, folder, octets, row, at, is_read, words)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, to_tsvector('simple', $10)) ON CONFLICT DO NOTHING RETURNING id`,
      [
        kept.id,
        mid,
        kept.isOurs,
        kept.box,
        kept.folder ?? null,
        Buffer.from(kept.octets),
        JSON.stringify(row),
        isoOf(kept.atMs),
        kept.isRead,
        words,
      ],
    );
    return added.length > 0;
  }

  /** A draft or posted letter, written anew; false where it is gone, sent, or was changed meanwhile. */
  async replace(kept: Kept, version: number): Promise<boolean> {
    const { mid, row, words } = described(kept);
    const [changed] = await this.database.query<[{ id: string }[], number]>(
      `UPDATE mail_message SET mid = $2, box = $3, octets = $4, row = $5, at = $6, words = to_tsvector('simple', $7), version = version + 1
       WHERE id = $1 AND version = $8 AND box IN ('drafts', 'outbox') RETURNING id`,
      [
        kept.id,
        mid,
        kept.box,
        Buffer.from(kept.octets),
        JSON.stringify(row),
        isoOf(kept.atMs),
        words,
        version,
      ],
    );
    return changed.length > 0;
  }

  async move(id: string, box: Box, folder: string | undefined): Promise<void> {
    await this.database.query(
      'UPDATE mail_message SET box = $2, folder = $3, version = version + 1 WHERE id = $1',
      [id, box, folder ?? null],
    );
  }

  async markRead(id: string, isRead: boolean): Promise<void> {
    await this.database.query('UPDATE mail_message SET is_read = $2 WHERE id = $1', [id, isRead]);
  }

  async markAnswered(id: string, atMs: number): Promise<void> {
    await this.database.query('UPDATE mail_message SET answered_at = $2 WHERE id = $1', [id, isoOf(atMs)]);
  }

  async remove(id: string): Promise<void> {
    await this.database.query('DELETE FROM mail_message WHERE id = $1', [id]);
  }

  /** It is theirs now. Written later where the database is away: a message of ours that goes out twice has one MID. */
  async noteSent(mid: string, atMs: number, note: string): Promise<void> {
    await this.deferred.write(
      `UPDATE mail_message SET box = 'sent', at = $2, row = row || jsonb_build_object('note', $3::text), version = version + 1
       WHERE mid = $1 AND is_ours AND box = 'outbox'`,
      [mid, isoOf(atMs), note],
    );
  }

  async note(mid: string, note: string): Promise<void> {
    await this.deferred.write(
      `UPDATE mail_message SET row = row || jsonb_build_object('note', $2::text) WHERE mid = $1 AND is_ours AND box = 'outbox'`,
      [mid, note],
    );
  }

  /** Posted, with their octets. */
  async outbox(): Promise<{ row: MailRow; octets: Uint8Array }[]> {
    const rows = await this.database.query<(Row & { octets: Buffer })[]>(
      `SELECT ${COLUMNS}, octets FROM mail_message WHERE box = 'outbox' ORDER BY at`,
    );
    return rows.map((row) => ({ row: rowOf(row), octets: new Uint8Array(row.octets) }));
  }

  async counts(): Promise<{ boxes: Record<Box, number>; unread: number; folders: string[] }> {
    const rows = await this.database.query<
      { box: Box; folder: string | null; count: number; unread: number }[]
    >(
      `SELECT box, folder, count(*)::int AS count, (count(*) FILTER (WHERE NOT is_read AND box IN ('inbox', 'folder')))::int AS unread
       FROM mail_message GROUP BY box, folder`,
    );
    const boxes = { inbox: 0, outbox: 0, sent: 0, drafts: 0, folder: 0 };
    for (const { box, count } of rows) boxes[box] += count;
    const folders = [...new Set(rows.flatMap(({ folder }) => folder ?? []))].sort();
    return { boxes, unread: rows.reduce((sum, { unread }) => sum + unread, 0), folders };
  }

  /** By id of message. */
  async subjects(mids: readonly string[]): Promise<Record<string, string>> {
    const rows = await this.database.query<{ mid: string; subject: string }[]>(
      `SELECT mid, row->>'subject' AS subject FROM mail_message WHERE mid = ANY($1)`,
      [mids],
    );
    return Object.fromEntries(rows.map(({ mid, subject }) => [mid, subject]));
  }

  /** Ids of all that was ever received, also of what was moved. */
  async receivedMids(): Promise<string[]> {
    const rows = await this.database.query<{ mid: string }[]>(
      'SELECT mid FROM mail_message WHERE NOT is_ours',
    );
    return rows.map(({ mid }) => mid);
  }

  async parts(): Promise<Map<string, Uint8Array>> {
    const rows = await this.database.query<{ mid: string; packed: Buffer }[]>(
      'SELECT mid, packed FROM mail_part',
    );
    return new Map(rows.map(({ mid, packed }) => [mid, new Uint8Array(packed)]));
  }

  async keepPart(mid: string, packed: Uint8Array, atMs: number): Promise<void> {
    await this.deferred.write(
      `INSERT INTO mail_part (mid, packed, at) VALUES ($1, decode($2, 'hex'), $3)
       ON CONFLICT (mid) DO UPDATE SET packed = excluded.packed, at = excluded.at`,
      [mid, toHex(packed), isoOf(atMs)],
    );
  }

  async forgetPart(mid: string): Promise<void> {
    await this.deferred.write('DELETE FROM mail_part WHERE mid = $1', [mid]);
  }

  /** Everybody written to or from, the last first. */
  async correspondents(most: number): Promise<{ address: string; atMs: number }[]> {
    const rows = await this.database.query<{ address: string; at: Date }[]>(
      `SELECT address, max(at) AS at FROM (
         SELECT row->>'from' AS address, at FROM mail_message WHERE NOT is_ours
         UNION ALL SELECT jsonb_array_elements_text(row->'to'), at FROM mail_message WHERE is_ours AND box <> 'drafts'
       ) AS all_of_them WHERE address <> '' GROUP BY address ORDER BY max(at) DESC LIMIT $1`,
      [most],
    );
    return rows.map(({ address, at }) => ({ address, atMs: at.getTime() }));
  }
}

const isoOf = (ms: number): string => new Date(Math.round(ms)).toISOString();

/** Words as typed, each by its beginning; what is no word says nothing. */
function queryOf(words: string): string | undefined {
  const parts = words
    .slice(0, LONGEST_QUERY)
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu);
  return parts ? parts.map((part) => `${part}:*`).join(' & ') : undefined;
}

/** What the lists show, and what is searched: signs other than letters and digits part words, as in a query. */
function described({ octets, precedence, onlyInternet, afterMs, note, beyondLatin1 }: Kept): {
  mid: string;
  row: Row['row'];
  words: string;
} {
  const message = readMessage(octets);
  if (isMalformed(message)) throw new RangeError(message.malformed);
  const { mid, from, to, cc, subject, text, files } = readLetter(message);
  const row = {
    from,
    to: [...to, ...cc],
    subject,
    octets: octets.length,
    packedOctets: pack(octets).length,
    files: files.length,
    precedence,
    onlyInternet,
    ...(afterMs === undefined ? {} : { afterMs }),
    ...(note === undefined ? {} : { note }),
    thread: threadOf(subject),
    ...(beyondLatin1 === undefined ? {} : { beyondLatin1 }),
  };
  const said = [from, ...to, ...cc, subject, text, ...files.map(({ name }) => name)]
    .join(' ')
    .slice(0, MOST_WORDS);
  return { mid, row, words: said.replace(/[^\p{L}\p{N}]+/gu, ' ') };
}

const rowOf = ({ id, mid, box, folder, row, at, is_read, answered_at, version }: Row): MailRow => ({
  id,
  mid,
  box,
  ...(folder === null ? {} : { folder }),
  ...row,
  atMs: at.getTime(),
  isRead: is_read,
  ...(answered_at ? { answeredAtMs: answered_at.getTime() } : {}),
  version,
});
