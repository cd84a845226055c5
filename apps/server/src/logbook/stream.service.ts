import { Injectable } from '@nestjs/common';
import { byTime, isWished, type Entry, type EntryWish } from '@mistpeak/core/logbook/entry';
import type { StreamPage } from '@mistpeak/contract/logbook';
import { LATEST_MS } from '@mistpeak/contract/latest-time';
import { DataSource } from 'typeorm';
import { RemovalsService } from '../removals/removals.service.js';
import { SOURCES, type EntrySource } from './sources.js';

const ROWS_AT_ONCE = 200;
/** So often at most; who looks for a rare word asks for the next page. */
const MOST_ROUNDS = 20;

export const entryKey = (id: string): string => `logbook entry ${id}`;

/** All that was tried as one stream, made of the tables in which each has its own. */
@Injectable()
export class StreamService {
  constructor(
    private readonly database: DataSource,
    private readonly removals: RemovalsService,
  ) {}

  /** Newest first, before an entry. */
  async page(
    wish: EntryWish,
    { beforeMs = LATEST_MS, beforeId }: { beforeMs?: number | undefined; beforeId?: string | undefined },
    limit: number,
  ): Promise<StreamPage> {
    const found: Entry[] = [];
    let edge = { beforeMs, beforeId };
    for (let round = 0; round < MOST_ROUNDS; round++) {
      const { entries, floorMs } = await this.read(wish, edge);
      for (const entry of entries) {
        if (isWished(entry, wish) && found.push(entry) >= limit)
          return { entries: found, next: { beforeMs: entry.atMs, beforeId: entry.id } };
      }
      if (floorMs === undefined) return { entries: found };
      const last = entries.at(-1);
      edge = last ? { beforeMs: last.atMs, beforeId: last.id } : { beforeMs: floorMs, beforeId: undefined };
    }
    return { entries: found, next: { beforeMs: edge.beforeMs, beforeId: edge.beforeId ?? '' } };
  }

  /** All between two times that are wished for, oldest first. */
  async within(fromMs: number, toMs: number, most: number): Promise<Entry[]> {
    const wish = { kinds: [], words: '' };
    const { entries } = await this.page(wish, { beforeMs: toMs + 1, beforeId: '' }, most);
    return entries.filter(({ atMs }) => atMs >= fromMs).reverse();
  }

  /** The next of every table, as far as all of them are read: what one has not shown yet may lie between. */
  private async read(
    { kinds }: EntryWish,
    { beforeMs, beforeId }: { beforeMs: number; beforeId: string | undefined },
  ): Promise<{ entries: Entry[]; floorMs: number | undefined }> {
    const sources = SOURCES.filter(({ kind }) => kinds.length === 0 || kinds.includes(kind));
    let floorMs = -Infinity;
    const entries: Entry[] = [];
    for (const source of sources) {
      const rows = await this.rowsOf(source, beforeMs, ROWS_AT_ONCE);
      if (rows.length === ROWS_AT_ONCE) floorMs = Math.max(floorMs, rows.at(-1)?.at.getTime() ?? -Infinity);
      for (const row of rows) {
        const { id, at } = row;
        if (this.removals.isLeaving(entryKey(id))) continue;
        entries.push({ ...source.entryOf(row as never), id, kind: source.kind, atMs: at.getTime() });
      }
    }
    const isBefore = ({ atMs, id }: Entry): boolean =>
      atMs < beforeMs || (atMs === beforeMs && beforeId !== undefined && id < beforeId);
    return {
      entries: entries.filter((entry) => isBefore(entry) && entry.atMs > floorMs).sort(byTime),
      floorMs: floorMs === -Infinity ? undefined : floorMs,
    };
  }

  private async rowsOf(
    { select }: EntrySource,
    beforeMs: number,
    most: number,
  ): Promise<{ id: string; at: Date }[]> {
    return this.database.query(select, [
      // Some times are kept to the microsecond: those of this millisecond are wanted too.
      new Date(Math.min(beforeMs + 1, LATEST_MS)).toISOString(),
      most,
    ]);
  }
}
