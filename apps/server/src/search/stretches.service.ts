import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { searchText, trigramCodes } from '@mistpeak/core/listening/search-text';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { RecordService } from '../record/record.service.js';
import { readStretch } from '../record/read-frames.js';
import { viewOfRecord } from '../record/view-of-record.js';

/** So many frames are one stretch, and those of the same millisecond as the last. */
export const STRETCH_FRAMES = 512;
/** Frames are stored a moment after they were heard: a stretch ends so long ago at least. */
const SETTLED_MS = 5000;
const LOOKED_AT_THEMSELVES = 128;
const LOOK_EVERY_MS = 10_000;
/** After this many in a row others have their turn. */
const IN_A_ROW = 8;

interface Stretch {
  readonly from_at: Date;
  readonly to_at: Date;
}

/**
 * Keeps the stretches by which the record is searched, behind what is stored. What comes into the record with times of long ago
 * (a capture, what had waited in a file) undoes the stretches from there on; they are made anew once it is quiet.
 */
@Injectable()
export class StretchesService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly log = new Logger('search');
  private cancel: (() => void) | undefined;
  private running: Promise<void> | undefined;
  private isEnded = false;
  /** ms since 1970: everything before it stands in stretches. */
  private untilMs = -Infinity;
  private undoneFromMs = Infinity;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly record: RecordService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const [row]: { to_at: Date | null }[] = await this.database.query(
      'SELECT max(to_at) AS to_at FROM record_stretch',
    );
    this.untilMs = row?.to_at?.getTime() ?? -Infinity;
    this.record.onStored((frames) => {
      const firstMs = frames.reduce((least, { atMs }) => Math.min(least, atMs), Infinity);
      if (firstMs < this.untilMs) this.undoneFromMs = Math.min(this.undoneFromMs, firstMs);
    });
    this.lookAgain(LOOK_EVERY_MS);
  }

  async onModuleDestroy(): Promise<void> {
    this.isEnded = true;
    this.cancel?.();
    await this.running;
  }

  /** Before which time the stretches tell what is in the record; what was undone meanwhile is not told. */
  builtUntilMs(): number {
    return Math.min(this.untilMs, this.undoneFromMs);
  }

  /**
   * The newest stretches before a time in which all of these stand. Frequent ones are found in the last stretches themselves;
   * for the others the index is the only way that does not read every stretch, and the database is told so: how rare a number
   * is, its figures do not show.
   */
  async holding(codes: readonly number[], beforeMs: number, most: number): Promise<Stretch[]> {
    const asked = [`{${codes.join(',')}}`, new Date(beforeMs).toISOString(), most];
    const near: Stretch[] = await this.database.query(
      `SELECT from_at, to_at FROM
         (SELECT * FROM record_stretch WHERE from_at < $2 ORDER BY from_at DESC LIMIT ${LOOKED_AT_THEMSELVES}) AS near
       WHERE trigrams @> $1::int[] ORDER BY from_at DESC LIMIT $3`,
      asked,
    );
    if (near.length >= most) return near;
    return this.database.transaction(async (manager) => {
      await manager.query('SET LOCAL enable_seqscan = off');
      await manager.query('SET LOCAL enable_indexscan = off');
      return manager.query<Stretch[]>(
        `SELECT from_at, to_at FROM record_stretch WHERE trigrams @> $1::int[] AND from_at < $2
         ORDER BY from_at DESC LIMIT $3`,
        asked,
      );
    });
  }

  /** Makes all that can be made now. */
  async build(): Promise<void> {
    this.running ??= this.run().finally(() => {
      this.running = undefined;
    });
    await this.running;
  }

  private lookAgain(ms: number): void {
    this.cancel?.();
    if (!this.isEnded) this.cancel = this.clock.after(ms, () => void this.lookAndGoOn());
  }

  private async lookAndGoOn(): Promise<void> {
    // While the database is away nothing is stored either.
    await this.build().catch((error: unknown) => this.log.warn(error));
    this.lookAgain(LOOK_EVERY_MS);
  }

  private async run(): Promise<void> {
    await this.undo();
    let made = 0;
    for (; !this.isEnded && (await this.makeOne()); made++)
      if (made % IN_A_ROW === IN_A_ROW - 1) await new Promise((resolve) => setImmediate(resolve));
    // What waits in the index’s pending list is read through by every search.
    if (made > 0) await this.database.query("SELECT gin_clean_pending_list('record_stretch_trigrams')");
  }

  private async undo(): Promise<void> {
    const fromMs = this.undoneFromMs;
    if (fromMs === Infinity) return;
    const [row]: { from_at: Date | null }[] = await this.database.query(
      'SELECT min(from_at) AS from_at FROM record_stretch WHERE to_at > $1',
      [new Date(fromMs).toISOString()],
    );
    await this.database.query('DELETE FROM record_stretch WHERE to_at > $1', [
      new Date(fromMs).toISOString(),
    ]);
    this.untilMs = Math.min(this.untilMs, fromMs, row?.from_at?.getTime() ?? Infinity);
    this.undoneFromMs = Infinity;
  }

  /** False when there is no whole stretch to make. */
  private async makeOne(): Promise<boolean> {
    const settledMs = this.clock.nowMs() - SETTLED_MS;
    const frames = await readStretch(this.database, this.untilMs, settledMs, STRETCH_FRAMES);
    const [first, last] = [frames[0], frames.at(-1)];
    if (frames.length < STRETCH_FRAMES || !first || !last) return false;
    const codes = new Set<number>();
    for (const frame of frames) {
      const view = viewOfRecord(frame);
      if (view) for (const code of trigramCodes(searchText(view))) codes.add(code);
    }
    const untilMs = last.atMs + 1;
    await this.database.query(
      `INSERT INTO record_stretch (from_at, to_at, trigrams) VALUES ($1, $2, $3::int[])
       ON CONFLICT (from_at) DO UPDATE SET to_at = excluded.to_at, trigrams = excluded.trigrams`,
      [new Date(first.atMs).toISOString(), new Date(untilMs).toISOString(), `{${[...codes].join(',')}}`],
    );
    // What came meanwhile from before is undone next time.
    this.untilMs = untilMs;
    return true;
  }
}
