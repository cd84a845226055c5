import { DataSource, type EntityManager } from 'typeorm';
import type { FrameRecord, Origin } from '@mistpeak/contract/frame';
import type { Clock } from '@mistpeak/link/clock';
import { troubleOf, type DatabaseTrouble } from '../database/trouble.js';
import { Partitions } from './partitions.js';
import { storableLine } from './stored-line.js';

export const FLUSH_EVERY_MS = 100;
const RETRY_EVERY_MS = 1000;
/** What fails for another reason than an outage may have met another at work: so often it is tried, and then never. */
const OTHER_TRIES = 3;
/** About ten minutes of a full 1200-baud channel on thirty links. */
const MOST_WAITING = 20_000;
export const LARGEST_BATCH = 2000;
/** Made in one go, since it means a walk over all that waits. */
const ROOM_AT_ONCE = 100;

export interface FrameStoreHost {
  /** Writes what belongs to the batch in the same transaction; returns how to undo its own bookkeeping. */
  alongside(manager: EntityManager): Promise<() => void>;
  /** The database will never take what goes alongside: it is left out from now on. */
  dropAlongside(): void;
  /** The database will never take these frames. */
  setAside(frames: readonly FrameRecord[]): void;
  stored(frames: readonly FrameRecord[]): Promise<void> | void;
}

/** Why nothing is stored now, in the words of the database; absent while all is well. */
export interface StoreTrouble {
  readonly trouble: Exclude<DatabaseTrouble, 'content'>;
  readonly detail: string;
}

/**
 * Write-behind: frames wait at most 100 ms and go in by one INSERT … SELECT unnest. While the database does not take them
 * they wait in memory, bounded; when the room is full the oldest are dropped and counted. A frame that it will never take
 * is set aside and holds up no other; so is what fails again and again for a reason that is no outage.
 */
export class FrameStore {
  dropped = 0;
  trouble: StoreTrouble | undefined;
  private otherTries = 0;
  /** Of which links frames were dropped. */
  readonly droppedOf = new Set<string>();
  private waiting: FrameRecord[] = [];
  private stopWaiting: (() => void) | undefined;
  private running: Promise<boolean> | undefined;
  private readonly partitions = new Partitions();

  constructor(
    private readonly database: DataSource,
    private readonly clock: Pick<Clock, 'after'>,
    private readonly host: FrameStoreHost,
  ) {}

  count(): number {
    return this.waiting.length;
  }

  add(frame: FrameRecord): void {
    this.waiting.push(frame);
    if (this.waiting.length > MOST_WAITING) this.makeRoom();
    this.schedule(FLUSH_EVERY_MS);
  }

  /** The link that has most waiting gives up its oldest: a flood takes nothing from the others. */
  private makeRoom(): void {
    const counts = new Map<string, number>();
    for (const { linkId } of this.waiting) counts.set(linkId, (counts.get(linkId) ?? 0) + 1);
    const [most] = [...counts].reduce((a, b) => (b[1] > a[1] ? b : a));
    let left = ROOM_AT_ONCE;
    const kept = this.waiting.filter(({ linkId }) => linkId !== most || left-- <= 0);
    this.dropped += this.waiting.length - kept.length;
    this.droppedOf.add(most);
    this.waiting = kept;
  }

  /** What still waits; nothing does after this. */
  takeAll(): readonly FrameRecord[] {
    return this.waiting.splice(0);
  }

  /** Writes everything now, as far as the database takes it. */
  async flush(): Promise<void> {
    this.stopWaiting?.();
    this.stopWaiting = undefined;
    while (this.running) await this.running;
    await this.run();
  }

  private run(): Promise<boolean> {
    this.running = this.drain().finally(() => {
      this.running = undefined;
    });
    return this.running;
  }

  private schedule(ms: number): void {
    if (this.stopWaiting || this.running) return;
    this.stopWaiting = this.clock.after(ms, () => {
      this.stopWaiting = undefined;
      void this.run().then((allWritten) => {
        if (this.waiting.length > 0) this.schedule(allWritten ? FLUSH_EVERY_MS : RETRY_EVERY_MS);
      });
    });
  }

  /** False when the database did not take it. */
  private async drain(): Promise<boolean> {
    while (this.waiting.length > 0) {
      const batch = this.waiting.slice(0, LARGEST_BATCH);
      try {
        await this.write(batch);
        this.trouble = undefined;
        this.otherTries = 0;
      } catch (error) {
        this.partitions.forget();
        const trouble = troubleOf(error);
        if (trouble === 'other') this.otherTries++;
        if (trouble !== 'content' && !this.isForEver(trouble)) {
          this.trouble = { trouble, detail: (error as Error).message };
          return false;
        }
        if (!(await this.writeAround(batch))) return false;
        continue;
      }
      // Frames may have been dropped from the front while this batch was on its way.
      this.forget(batch);
      await this.host.stored(batch);
    }
    return true;
  }

  private isForEver(trouble: DatabaseTrouble): boolean {
    return trouble === 'content' || (trouble === 'other' && this.otherTries >= OTHER_TRIES);
  }

  private forget(frames: readonly FrameRecord[]): void {
    const gone = new Set(frames);
    this.waiting = this.waiting.filter((frame) => !gone.has(frame));
  }

  /** Something in it can never be stored: the rest is, by halves. False when the database did not take what it could. */
  private async writeAround(batch: readonly FrameRecord[]): Promise<boolean> {
    const refused: FrameRecord[] = [];
    const halve = async (part: readonly FrameRecord[]): Promise<void> => {
      try {
        await this.write(part, false);
        await this.host.stored(part);
        this.forget(part);
      } catch (error) {
        this.partitions.forget();
        if (!this.isForEver(troubleOf(error))) throw error;
        if (part.length === 1) return void refused.push(...part);
        const middle = part.length >> 1;
        await halve(part.slice(0, middle));
        await halve(part.slice(middle));
      }
    };
    try {
      await halve(batch);
    } catch (error) {
      this.trouble = { trouble: waitingFor(error), detail: (error as Error).message };
      return false;
    }
    this.trouble = undefined;
    this.otherTries = 0;
    this.forget(refused);
    if (refused.length > 0) this.host.setAside(refused);
    else this.host.dropAlongside();
    return true;
  }

  private async write(batch: readonly FrameRecord[], withAlongside = true): Promise<void> {
    let undo: () => void = () => undefined;
    try {
      await this.database.transaction(async (manager) => {
        await this.partitions.ensure(
          manager,
          batch.map(({ atMs }) => atMs),
        );
        await insertFrames(manager, batch);
        await addToTally(manager, batch);
        if (withAlongside) undo = await this.host.alongside(manager);
      });
    } catch (error) {
      undo();
      throw error;
    }
  }
}

function waitingFor(error: unknown): StoreTrouble['trouble'] {
  const trouble = troubleOf(error);
  return trouble === 'content' ? 'other' : trouble;
}

/** A batch whose commit was not answered may come twice: the key makes the second a no-op. */
async function insertFrames(manager: EntityManager, batch: readonly FrameRecord[]): Promise<void> {
  await manager.query(
    `INSERT INTO frames (id, heard_at, link_id, direction, port, raw, trouble, times, origin, measures, line, modulo)
     SELECT id, heard_at, link_id, direction, port, decode(raw, 'hex'), trouble, times, origin, measures, line, modulo
     FROM unnest($1::uuid[], $2::timestamptz[], $3::uuid[], $4::text[], $5::smallint[], $6::text[], $7::text[], $8::int[],
         $9::text[], $10::jsonb[], $11::text[], $12::smallint[])
       AS t (id, heard_at, link_id, direction, port, raw, trouble, times, origin, measures, line, modulo)
     ON CONFLICT DO NOTHING`,
    [
      batch.map(({ id }) => id),
      batch.map(({ atMs }) => new Date(atMs).toISOString()),
      batch.map(({ linkId }) => linkId),
      batch.map(({ direction }) => direction),
      batch.map(({ port }) => port),
      batch.map(({ rawHex }) => rawHex),
      batch.map(({ trouble }) => trouble ?? null),
      batch.map(({ times }) => times ?? 1),
      // What waited in a file since an earlier version has none.
      batch.map(
        ({ origin, direction }) => (origin as Origin | undefined) ?? (direction === 'sent' ? 'own' : 'kiss'),
      ),
      batch.map(({ measures }) => (measures ? JSON.stringify(measures) : null)),
      batch.map(({ line }) => (line === undefined ? null : storableLine(line))),
      batch.map(({ modulo }) => modulo ?? 8),
    ],
  );
}

/** `frame` counts whole frames heard, every other reason what was not read. */
async function addToTally(manager: EntityManager, batch: readonly FrameRecord[]): Promise<void> {
  const heard = batch.filter(({ direction }) => direction === 'heard');
  await manager.query(
    `INSERT INTO tally (link_id, reason, count, last_at)
     SELECT link_id, reason, sum(times), max(at)
     FROM unnest($1::uuid[], $2::text[], $3::timestamptz[], $4::int[]) AS t (link_id, reason, at, times)
     GROUP BY link_id, reason
     ON CONFLICT (link_id, reason) DO UPDATE
       SET count = tally.count + excluded.count, last_at = greatest(tally.last_at, excluded.last_at)`,
    [
      heard.map(({ linkId }) => linkId),
      heard.map(({ trouble }) => trouble ?? 'frame'),
      heard.map(({ atMs }) => new Date(atMs).toISOString()),
      heard.map(({ times }) => times ?? 1),
    ],
  );
}
