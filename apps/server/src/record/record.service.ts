import {
  Inject,
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex, toHex } from '@mistpeak/core/bits/octets';
import type { FrameView } from '@mistpeak/core/stations/view';
import type { CaptureTaken, FrameRecord, Origin } from '@mistpeak/contract/frame';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DatabaseSession } from '../database/session.js';
import { Spool } from '../database/spool.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { judge, judgeLine, TrafficService, type Passing } from '../traffic/traffic.service.js';
import { readCapture } from './capture.js';
import { ChannelUse } from './channel-use.js';
import { FrameStore, LARGEST_BATCH } from './frame-store.js';
import { countTallies, eachFrame, readFrames, readFramesById, readTallies } from './read-frames.js';
import { Tallies } from './tallies.js';
import { viewOfRecord } from './view-of-record.js';

const SHOWN = 400;
/** Of the internet side pages are told no more: all of it is in the record, and what is known of its stations comes whole with each snapshot. */
const LINES_SHOWN_A_SECOND = 50;
const SPOOLED = 'frames';
const IDS_PER_NOTICE = 190;

/** An entry of the record as a view reads it: what it says, if anything. */
export interface ReadFrame {
  readonly id: string;
  readonly atMs: number;
  readonly view?: FrameView | undefined;
  readonly origin: Origin;
}

/** What is made of the record and kept beside it, in the same transactions. */
export interface RecordView {
  /** An entry that takes no way through the traffic. isStored: whoever stored it has stored this view of it too. */
  read(frame: ReadFrame, isStored: boolean): void;
  /** Writes what changed since the last call; returns how to take it as unwritten again. */
  store(manager: EntityManager): Promise<() => void>;
  /** The database will never take what changed. */
  dropChanges(): void;
  /** Empties it, before every entry is read anew. */
  clear(manager: EntityManager): Promise<void>;
}

/** The record: everything that came in or went out is one entry, shown at once and stored behind. */
@Injectable()
export class RecordService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  readonly store: FrameStore;
  private readonly log = new Logger('record');
  private readonly tallies = new Tallies();
  private readonly channels = new ChannelUse();
  private readonly views: RecordView[] = [];
  private readonly storedListeners: ((frames: readonly FrameRecord[]) => void)[] = [];
  private recent: FrameRecord[] = [];
  private linesShown = { second: 0, count: 0 };
  /** Frames that the database will never take, since the start. */
  refused = 0;
  /** Frames of before the start that had waited in a file. */
  restored = 0;

  constructor(
    private readonly dataSource: DataSource,
    private readonly database: DatabaseSession,
    private readonly links: LinksService,
    private readonly traffic: TrafficService,
    private readonly live: LiveService,
    private readonly spool: Spool,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {
    this.store = new FrameStore(dataSource, clock, {
      alongside: (manager) => this.storeViews(manager),
      stored: (frames) => this.tellStored(frames),
      dropAlongside: () => this.views.forEach((view) => view.dropChanges()),
      setAside: (frames) => this.setAside(frames),
    });
    traffic.take('record', {
      heard: (frame) => this.heard(frame),
      sent: ({ trouble: _, ...frame }) => this.show(this.keep(recordOf(frame, 'sent'))),
      scrap: ({ id, linkId, atMs, raw, reason, times }) =>
        this.show(
          this.keep({
            ...recordOf(
              { id, linkId, atMs, raw, port: 0, origin: 'kiss', modulo: 8, trouble: reason },
              'heard',
            ),
            ...(times ? { times } : {}),
          }),
        ),
    });
    traffic.take('channel', {
      heard: (frame) => this.noteOnAir(frame, 'heard'),
      sent: (frame) => this.noteOnAir(frame, 'sent'),
    });
  }

  async onApplicationBootstrap(): Promise<void> {
    await this.restore();
    this.recent = await readFrames(this.dataSource, { limit: SHOWN });
    await this.readTallies();
    this.live.contribute('frames', () => this.recent);
    this.live.contribute('tallies', () => this.tallies.views());
    this.live.contribute('channels', () => this.channels.views());
    this.database.onNotice<string[]>(
      'frames',
      (ids) => void this.showStoredElsewhere(ids).catch((error: unknown) => this.log.error(error)),
    );
  }

  /** What the database does not take now waits in a file for the next start. */
  async beforeApplicationShutdown(): Promise<void> {
    await this.store.flush();
    this.spool.keep(SPOOLED, this.store.takeAll());
  }

  keepAlongside(view: RecordView): void {
    this.views.push(view);
  }

  /**
   * Takes a capture into the record with its own times, as heard on that link. It proves nothing about the link:
   * nobody knows with what it was heard. Pages get a new snapshot at the end, not each frame.
   */
  async takeCapture(linkId: string, octets: Uint8Array): Promise<CaptureTaken> {
    this.links.view(linkId);
    const { packets, refused } = readCapture(octets, this.clock.nowMs());
    let waiting = 0;
    for (const { atMs, port, raw } of packets) {
      this.traffic.heard({ linkId, atMs, raw, port, origin: 'capture' });
      if (++waiting % LARGEST_BATCH === 0) await this.store.flush();
    }
    await this.store.flush();
    await this.showAnew();
    return { taken: packets.length, refused };
  }

  /** Makes every view of the record anew, in one transaction; how many entries were read. */
  async replay(): Promise<number> {
    await this.store.flush();
    let read = 0;
    await this.dataSource.transaction(async (manager) => {
      await countTallies(manager);
      for (const view of this.views) await view.clear(manager);
      for await (const frames of eachFrame(manager, LARGEST_BATCH)) {
        for (const frame of frames) this.readAgain(frame, false);
        await this.storeViews(manager);
        read += frames.length;
      }
    });
    await this.readTallies();
    await this.showAnew();
    return read;
  }

  /** What was heard from a time (ms) on and could be read, oldest first. */
  async *heardSince(sinceMs: number): AsyncGenerator<{ atMs: number; view: FrameView }> {
    for await (const frame of this.since(sinceMs)) {
      const view = frame.direction === 'sent' ? undefined : viewOfRecord(frame);
      if (view) yield { atMs: frame.atMs, view };
    }
  }

  /** Every entry from a time (ms) on, oldest first. */
  async *since(sinceMs: number): AsyncGenerator<FrameRecord> {
    await this.store.flush();
    for await (const frames of eachFrame(this.dataSource.manager, LARGEST_BATCH, sinceMs)) yield* frames;
  }

  private async readTallies(): Promise<void> {
    this.tallies.clear();
    for (const row of await readTallies(this.dataSource))
      this.tallies.set(row.linkId, row.reason, row.count, row.lastAtMs);
  }

  private async showAnew(): Promise<void> {
    this.recent = await readFrames(this.dataSource, { limit: SHOWN });
    this.live.refresh();
  }

  /** Frames that waited when the last process ended: into the record before it is read. */
  private async restore(): Promise<void> {
    const frames = this.spool.take<FrameRecord>(SPOOLED);
    for (const frame of frames) {
      this.readAgain(frame, false);
      this.store.add(frame);
    }
    await this.store.flush();
    this.restored = frames.length;
  }

  /** An entry that was judged before: its views are made, its way is not gone again. */
  private readAgain(
    { id, atMs, rawHex, line, direction, trouble, modulo, origin }: FrameRecord,
    isStored: boolean,
  ): void {
    const raw = fromHex(rawHex);
    if (isMalformed(raw) || direction === 'sent' || trouble) return;
    const { view } = line === undefined ? judge(raw, modulo) : judgeLine(line);
    for (const one of this.views) one.read({ id, atMs, view, origin }, isStored);
  }

  private async storeViews(manager: EntityManager): Promise<() => void> {
    const undos: (() => void)[] = [];
    const undo = (): void => undos.forEach((one) => one());
    try {
      for (const view of this.views) undos.push(await view.store(manager));
    } catch (error) {
      undo();
      throw error;
    }
    return undo;
  }

  private setAside(frames: readonly FrameRecord[]): void {
    this.refused += frames.length;
    this.log.error(
      `the database refuses ${frames.length} frames: ${frames.map(({ rawHex }) => rawHex).join(' ')}`,
    );
    this.spool.keep(`refused-frames-${this.clock.nowMs()}`, frames);
  }

  /** Share of the last five minutes in which the link's channel was held, 0–1. */
  shareHeld(linkId: string): number {
    return this.channels.shareHeld(linkId, this.clock.nowMs());
  }

  private heard(frame: Passing): void {
    const record = this.keep(recordOf(frame, 'heard'));
    // Of a capture the pages get the end alone, and of a flood of the internet side as much as can be read.
    if (frame.origin !== 'capture' && (frame.line === undefined || this.hasRoomToShow())) this.show(record);
  }

  private hasRoomToShow(): boolean {
    const second = Math.floor(this.clock.upMs() / 1000);
    if (second !== this.linesShown.second) this.linesShown = { second, count: 0 };
    return this.linesShown.count++ < LINES_SHOWN_A_SECOND;
  }

  private noteOnAir(frame: Passing, direction: FrameRecord['direction']): void {
    // A copy of the internet side held no channel.
    if (frame.origin !== 'capture' && frame.line === undefined)
      this.channels.note(frame, direction, this.links.settings(frame.linkId).airRate);
  }

  /** Into the record, without telling the pages. */
  private keep(record: FrameRecord): FrameRecord {
    if (record.direction === 'heard') this.tallies.add(record);
    this.store.add(record);
    return record;
  }

  private show(record: FrameRecord): void {
    this.recent.push(record);
    if (this.recent.length > SHOWN) this.recent.splice(0, this.recent.length - SHOWN);
    this.live.publish({ kind: 'frame', data: record });
  }

  /** Told of every batch that the database has now. */
  onStored(listener: (frames: readonly FrameRecord[]) => void): void {
    this.storedListeners.push(listener);
  }

  private async tellStored(frames: readonly FrameRecord[]): Promise<void> {
    for (const listener of this.storedListeners) listener(frames);
    const ids = frames.map(({ id }) => id);
    const stored = new Set(ids);
    const shown = this.recent.filter(({ id }) => stored.has(id)).map(({ id }) => id);
    this.recent = this.recent.map((frame) => (stored.has(frame.id) ? { ...frame, stored: true } : frame));
    if (shown.length > 0) this.live.publish({ kind: 'stored', data: shown });
    for (const linkId of new Set(frames.map((frame) => frame.linkId)))
      this.live.publish({ kind: 'tally', data: this.tallies.view(linkId) });
    for (let at = 0; at < ids.length; at += IDS_PER_NOTICE)
      await this.database.notify('frames', ids.slice(at, at + IDS_PER_NOTICE)).catch(() => undefined);
  }

  /** Frames that another process on this database stored: shown here too. */
  private async showStoredElsewhere(ids: readonly string[]): Promise<void> {
    for (const record of await readFramesById(this.dataSource, ids)) {
      this.show(record);
      this.readAgain(record, true);
    }
  }
}

function recordOf(
  { id, linkId, atMs, raw, line, port, origin, modulo, trouble, measures }: Passing,
  direction: FrameRecord['direction'],
): FrameRecord {
  return {
    id,
    atMs,
    linkId,
    direction,
    port,
    origin,
    rawHex: toHex(raw),
    ...(line === undefined ? {} : { line }),
    ...(trouble ? { trouble } : {}),
    ...(measures ? { measures } : {}),
    ...(modulo === 128 ? { modulo } : {}),
    stored: false,
  };
}
