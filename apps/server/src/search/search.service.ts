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
import { packetOf } from '../record/packet-of.js';
import { mayHold, plainWords, soughtWord } from './quick-look.js';
import { StretchesService } from './stretches.service.js';

/** A page looks back no longer than this at once; it can be told to look further. */
const AT_MOST_MS = 1500;
const FRAMES_AT_ONCE = 500;
const STRETCHES_AT_ONCE = 16;
/** While the database reads one, another is looked through. */
const READ_TOGETHER = 4;

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
    const deadline = this.clock.upMs() + AT_MOST_MS;
    for await (const { frames, lookedBackTo } of this.candidates(filter, before)) {
      for (const frame of frames)
        if (this.isWanted(filter, frame) && found.push(frame) >= limit)
          return { frames: found, isComplete: false, next: { beforeMs: frame.atMs, beforeId: frame.id } };
      if (this.clock.upMs() > deadline) return { frames: found, isComplete: false, next: lookedBackTo };
    }
    return { frames: found, isComplete: true };
  }

  /** What fits between two times, oldest first, at most so many. */
  async within(filter: PacketFilter, sinceMs: number, untilMs: number, most: number): Promise<FrameRecord[]> {
    const found: FrameRecord[] = [];
    for await (const { frames, lookedBackTo } of this.candidates(filter, { beforeMs: untilMs })) {
      for (const frame of frames) {
        if (frame.atMs < sinceMs) return found.reverse();
        if (this.isWanted(filter, frame) && found.push(frame) >= most) return found.reverse();
      }
      if (lookedBackTo.beforeMs < sinceMs) break;
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
  private async *candidates(filter: PacketFilter, before: Before): AsyncGenerator<LookedThrough> {
    await this.record.store.flush();
    const codes = codesOf(filter);
    if (codes.length === 0) {
      yield* this.backwards(before, -Infinity);
      return;
    }
    const builtMs = this.stretches.builtUntilMs();
    yield* this.backwards(before, builtMs);
    if (builtMs > -Infinity) yield* this.inStretches(filter, codes, before, builtMs);
  }

  private async *backwards(before: Before, downToMs: number): AsyncGenerator<LookedThrough> {
    let next = before;
    while (next.beforeMs === undefined || next.beforeMs >= downToMs) {
      const frames = await readFrames(this.database, { limit: FRAMES_AT_ONCE, ...next });
      const [first] = frames;
      if (!first) return;
      const lookedBackTo = { beforeMs: first.atMs, beforeId: first.id };
      yield { frames: frames.filter(({ atMs }) => atMs >= downToMs).reverse(), lookedBackTo };
      if (frames.length < FRAMES_AT_ONCE) return;
      next = lookedBackTo;
    }
  }

  private async recordsOf(entries: readonly { readonly id: string }[]): Promise<FrameRecord[]> {
    const ids = entries.map(({ id }) => id);
    return (await readFramesById(this.database, ids)).reverse();
  }

  private async *inStretches(
    filter: PacketFilter,
    codes: readonly number[],
    before: Before,
    builtMs: number,
  ): AsyncGenerator<LookedThrough> {
    const plain = plainWords(wordsOf(filter));
    const sought = plain.map(soughtWord);
    const { beforeMs = Infinity, beforeId } = before;
    let edgeMs = Math.min(beforeMs, builtMs);
    for (;;) {
      // With an entry’s id the stretch that holds its millisecond is looked through again.
      const edge = edgeMs === beforeMs && beforeId !== undefined ? edgeMs + 1 : edgeMs;
      const rows = await this.stretches.holding(codes, edge, STRETCHES_AT_ONCE);
      for (let at = 0; at < rows.length; at += READ_TOGETHER) {
        const together = rows.slice(at, at + READ_TOGETHER);
        const read = together.map(({ from_at, to_at }) =>
          readRawWithin(this.database, from_at.getTime(), Math.min(to_at.getTime(), edge), sought),
        );
        for (const [i, entries] of (await Promise.all(read)).entries()) {
          edgeMs = together[i]?.from_at.getTime() ?? edgeMs;
          const wanted = entries.filter((entry) => isBefore(entry, before) && mayHold(entry, plain));
          const frames = wanted.length === 0 ? [] : await this.recordsOf(wanted);
          yield { frames, lookedBackTo: { beforeMs: edgeMs } };
        }
      }
      if (rows.length < STRETCHES_AT_ONCE) return;
    }
  }
}

/** Frames that may fit, newest first, and how far back all has been looked through with them. */
interface LookedThrough {
  readonly frames: readonly FrameRecord[];
  readonly lookedBackTo: { readonly beforeMs: number; readonly beforeId?: string };
}

const isBefore = (
  { atMs, id }: { atMs: number; id: string },
  { beforeMs = Infinity, beforeId }: Before,
): boolean => atMs < beforeMs || (atMs === beforeMs && beforeId !== undefined && id < beforeId);

const wordsOf = ({ words = '', station = '' }: PacketFilter): string[] =>
  [...searchWords(words), station.trim().toLowerCase()].filter(Boolean);

/** The numbers that every frame with these words has. */
const codesOf = (filter: PacketFilter): number[] => [
  ...new Set(wordsOf(filter).flatMap((word) => [...trigramCodes(word)])),
];
