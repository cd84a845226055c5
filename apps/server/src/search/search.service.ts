import { Inject, Injectable } from '@nestjs/common';
import { fits, type Looker, type PacketFilter } from '@mistpeak/core/listening/filter';
import { searchWords, trigramCodes } from '@mistpeak/core/listening/search-text';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { SearchPage } from '@mistpeak/contract/search';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { OperatorService } from '../operator/operator.service.js';
import { readFrames, readFramesById, readRawWithin } from '../record/read-frames.js';
import { RecordService } from '../record/record.service.js';
import { packetOf } from './export.js';
import { mayHold, plainWords } from './quick-look.js';
import { StretchesService } from './stretches.service.js';

/** A page looks back no longer than this at once; it can be told to look further. */
const AT_MOST_MS = 1500;
const FRAMES_AT_ONCE = 500;
const STRETCHES_AT_ONCE = 8;

/** Where a page ended: the entry before which the next begins. */
export interface Before {
  readonly beforeMs?: number;
  readonly beforeId?: string;
}

/** Finds in all that is kept, newest first: stretches that may hold the words, and in them frame by frame. */
@Injectable()
export class SearchService {
  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly operator: OperatorService,
    private readonly record: RecordService,
    private readonly stretches: StretchesService,
  ) {}

  async find(filter: PacketFilter, limit: number, before: Before): Promise<SearchPage> {
    const found: FrameRecord[] = [];
    let last: FrameRecord | undefined;
    const deadline = this.clock.upMs() + AT_MOST_MS;
    for await (const frames of this.candidates(filter, before)) {
      for (const frame of frames) {
        last = frame;
        if (this.isWanted(filter, frame) && found.push(frame) >= limit)
          return { frames: found, isComplete: false, next: nextOf(frame) };
      }
      if (last && this.clock.upMs() > deadline)
        return { frames: found, isComplete: false, next: nextOf(last) };
    }
    return { frames: found, isComplete: true };
  }

  /** What fits between two times, oldest first, at most so many. */
  async within(filter: PacketFilter, sinceMs: number, untilMs: number, most: number): Promise<FrameRecord[]> {
    const found: FrameRecord[] = [];
    for await (const frames of this.candidates(filter, { beforeMs: untilMs })) {
      for (const frame of frames) {
        if (frame.atMs < sinceMs) return found.reverse();
        if (this.isWanted(filter, frame) && found.push(frame) >= most) return found.reverse();
      }
    }
    return found.reverse();
  }

  looker(): Looker {
    const operator = this.operator.view();
    return { position: operator?.position ?? undefined, call: operator?.call };
  }

  private isWanted(filter: PacketFilter, record: FrameRecord): boolean {
    const packet = packetOf(record);
    return packet !== undefined && fits(filter, packet, this.looker());
  }

  /** Frames that may fit, newest first, in parts: those in no stretch yet one by one, then only stretches that hold the words. */
  private async *candidates(filter: PacketFilter, before: Before): AsyncGenerator<FrameRecord[]> {
    await this.record.store.flush();
    const codes = codesOf(filter);
    if (codes.length === 0) return yield* this.backwards(before, -Infinity);
    const builtMs = this.stretches.builtUntilMs();
    yield* this.backwards(before, builtMs);
    if (builtMs > -Infinity) yield* this.inStretches(filter, codes, before, builtMs);
  }

  private async *backwards(before: Before, downToMs: number): AsyncGenerator<FrameRecord[]> {
    let next = before;
    while (next.beforeMs === undefined || next.beforeMs >= downToMs) {
      const frames = await readFrames(this.database, { limit: FRAMES_AT_ONCE, ...next });
      const [first] = frames;
      yield frames.filter(({ atMs }) => atMs >= downToMs).reverse();
      if (!first || frames.length < FRAMES_AT_ONCE) return;
      next = { beforeMs: first.atMs, beforeId: first.id };
    }
  }

  private async *inStretches(
    filter: PacketFilter,
    codes: readonly number[],
    { beforeMs = Infinity, beforeId }: Before,
    builtMs: number,
  ): AsyncGenerator<FrameRecord[]> {
    const plain = plainWords(wordsOf(filter));
    let edgeMs = Math.min(beforeMs, builtMs);
    for (;;) {
      // With an entry’s id the stretch that holds its millisecond is looked through again.
      const edge = edgeMs === beforeMs && beforeId !== undefined ? edgeMs + 1 : edgeMs;
      const rows: { from_at: Date; to_at: Date }[] = await this.database.query(
        `SELECT from_at, to_at FROM record_stretch WHERE trigrams @> $1::int[] AND from_at < $2
         ORDER BY from_at DESC LIMIT $3`,
        [`{${codes.join(',')}}`, new Date(edge).toISOString(), STRETCHES_AT_ONCE],
      );
      for (const { from_at, to_at } of rows) {
        const untilMs = Math.min(to_at.getTime(), edge);
        const entries = await readRawWithin(this.database, from_at.getTime(), untilMs);
        const wanted = entries.filter(
          (entry) =>
            (entry.atMs < beforeMs ||
              (entry.atMs === beforeMs && beforeId !== undefined && entry.id < beforeId)) &&
            mayHold(entry, plain),
        );
        const ids = wanted.map(({ id }) => id);
        yield ids.length === 0 ? [] : (await readFramesById(this.database, ids)).reverse();
        edgeMs = from_at.getTime();
      }
      if (rows.length < STRETCHES_AT_ONCE) return;
    }
  }
}

const nextOf = ({ atMs, id }: FrameRecord): { beforeMs: number; beforeId: string } => ({
  beforeMs: atMs,
  beforeId: id,
});

const wordsOf = ({ words = '', station = '' }: PacketFilter): string[] =>
  [...searchWords(words), station.trim().toLowerCase()].filter(Boolean);

/** The numbers that every frame with these words has. */
const codesOf = (filter: PacketFilter): number[] => [
  ...new Set(wordsOf(filter).flatMap((word) => [...trigramCodes(word)])),
];
