import { DataSource, type EntityManager } from 'typeorm';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { Partitions } from './partitions.js';

export const FLUSH_EVERY_MS = 100;
const RETRY_EVERY_MS = 1000;
/** About ten minutes of a full 1200-baud channel on thirty links. */
const MOST_WAITING = 20_000;
export const LARGEST_BATCH = 2000;

export interface FrameStoreHost {
  /** Writes what belongs to the batch in the same transaction; returns how to undo its own bookkeeping. */
  alongside(manager: EntityManager): Promise<() => void>;
  stored(frames: readonly FrameRecord[]): Promise<void> | void;
}

/**
 * Write-behind: frames wait at most 100 ms and go in by one INSERT … SELECT unnest. While the database is away
 * they wait in memory, bounded; when the room is full the oldest are dropped and counted.
 */
export class FrameStore {
  dropped = 0;
  private waiting: FrameRecord[] = [];
  private timer: NodeJS.Timeout | undefined;
  private running: Promise<boolean> | undefined;
  private readonly partitions = new Partitions();

  constructor(
    private readonly database: DataSource,
    private readonly host: FrameStoreHost,
  ) {}

  count(): number {
    return this.waiting.length;
  }

  add(frame: FrameRecord): void {
    this.waiting.push(frame);
    if (this.waiting.length > MOST_WAITING) {
      this.waiting.shift();
      this.dropped++;
    }
    this.schedule(FLUSH_EVERY_MS);
  }

  /** Writes everything now; used at the end. What cannot be written then is lost with the process. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    await this.running;
    await this.drain();
  }

  private schedule(ms: number): void {
    if (this.timer || this.running) return;
    this.timer = setTimeout(() => {
      this.timer = undefined;
      this.running = this.drain().finally(() => {
        this.running = undefined;
      });
      void this.running.then((allWritten) => {
        if (this.waiting.length > 0) this.schedule(allWritten ? FLUSH_EVERY_MS : RETRY_EVERY_MS);
      });
    }, ms);
  }

  /** False when the database did not take it. */
  private async drain(): Promise<boolean> {
    while (this.waiting.length > 0) {
      const batch = this.waiting.slice(0, LARGEST_BATCH);
      try {
        await this.write(batch);
      } catch {
        this.partitions.forget();
        return false;
      }
      // Frames may have been dropped from the front while this batch was on its way.
      const written = new Set(batch);
      this.waiting = this.waiting.filter((frame) => !written.has(frame));
      await this.host.stored(batch);
    }
    return true;
  }

  private async write(batch: readonly FrameRecord[]): Promise<void> {
    let undo: () => void = () => undefined;
    try {
      await this.database.transaction(async (manager) => {
        await this.partitions.ensure(
          manager,
          batch.map(({ atMs }) => atMs),
        );
        await insertFrames(manager, batch);
        await addToTally(manager, batch);
        undo = await this.host.alongside(manager);
      });
    } catch (error) {
      undo();
      throw error;
    }
  }
}

/** A batch whose commit was not answered may come twice: the key makes the second a no-op. */
async function insertFrames(manager: EntityManager, batch: readonly FrameRecord[]): Promise<void> {
  await manager.query(
    `INSERT INTO frames (id, heard_at, link_id, direction, port, raw, trouble)
     SELECT id, heard_at, link_id, direction, port, decode(raw, 'hex'), trouble
     FROM unnest($1::uuid[], $2::timestamptz[], $3::uuid[], $4::text[], $5::smallint[], $6::text[], $7::text[])
       AS t (id, heard_at, link_id, direction, port, raw, trouble)
     ON CONFLICT DO NOTHING`,
    [
      batch.map(({ id }) => id),
      batch.map(({ atMs }) => new Date(atMs).toISOString()),
      batch.map(({ linkId }) => linkId),
      batch.map(({ direction }) => direction),
      batch.map(({ port }) => port),
      batch.map(({ rawHex }) => rawHex),
      batch.map(({ trouble }) => trouble ?? null),
    ],
  );
}

/** `frame` counts whole frames heard, every other reason what was not read. */
async function addToTally(manager: EntityManager, batch: readonly FrameRecord[]): Promise<void> {
  const heard = batch.filter(({ direction }) => direction === 'heard');
  await manager.query(
    `INSERT INTO tally (link_id, reason, count, last_at)
     SELECT link_id, reason, count(*), max(at) FROM unnest($1::uuid[], $2::text[], $3::timestamptz[]) AS t (link_id, reason, at)
     GROUP BY link_id, reason
     ON CONFLICT (link_id, reason) DO UPDATE
       SET count = tally.count + excluded.count, last_at = greatest(tally.last_at, excluded.last_at)`,
    [
      heard.map(({ linkId }) => linkId),
      heard.map(({ trouble }) => trouble ?? 'frame'),
      heard.map(({ atMs }) => new Date(atMs).toISOString()),
    ],
  );
}
