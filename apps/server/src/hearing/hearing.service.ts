import {
  Inject,
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { DataSource } from 'typeorm';
import { v7 as uuidv7 } from 'uuid';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex, toHex } from '@mistpeak/core/bits/octets';
import { wayOf } from '@mistpeak/core/digipeating/way';
import { bitsOnAir } from '@mistpeak/core/hdlc/air-time';
import { laneOf, noteOnAir, type ChannelPast } from '@mistpeak/core/stations/channel-past';
import { viewFrame, type FrameView } from '@mistpeak/core/stations/view';
import {
  NOT_APRS,
  NOT_AX25,
  type CaptureTaken,
  type FrameRecord,
  type Trouble,
} from '@mistpeak/contract/frame';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DatabaseSession } from '../database/session.js';
import { Spool } from '../database/spool.js';
import { LinksService, type Received } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ProofService } from '../proof/proof.service.js';
import { StationsService } from '../stations/stations.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { readCapture } from './capture.js';
import { FrameStore, LARGEST_BATCH } from './frame-store.js';
import { Tallies } from './tallies.js';
import { readFrames, readFramesById, readTallies } from './record.js';

const SHOWN = 400;
const SPOOLED = 'frames';
const SEQUENCES = 2 ** 31;
const IDS_PER_NOTICE = 190;

/** One entry of the record before it has an id. */
interface Entry {
  readonly linkId: string;
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly port: number;
  readonly direction: FrameRecord['direction'];
  readonly trouble?: Trouble | undefined;
  readonly times?: number | undefined;
}

/** The way in: everything received becomes one entry of the record, is shown at once and stored behind. */
@Injectable()
export class HearingService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  readonly store: FrameStore;
  private readonly log = new Logger('hearing');
  /** Entries of the same millisecond keep their order by it (RFC 9562, 6.2, method 1). */
  private sequence = 0;
  private readonly tallies = new Tallies();
  private readonly channels = new Map<string, ChannelPast>();
  private recent: FrameRecord[] = [];
  /** Frames that the database will never take, since the start. */
  refused = 0;
  /** Frames of before the start that had waited in a file. */
  restored = 0;

  constructor(
    private readonly dataSource: DataSource,
    private readonly database: DatabaseSession,
    private readonly links: LinksService,
    private readonly transmitting: TransmittingService,
    private readonly stations: StationsService,
    private readonly live: LiveService,
    private readonly proof: ProofService,
    private readonly spool: Spool,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {
    this.store = new FrameStore(dataSource, {
      alongside: (manager) => this.stations.store(manager),
      stored: (frames) => this.tellStored(frames),
      dropAlongside: () => this.stations.dropChanges(),
      setAside: (frames) => this.setAside(frames),
    });
  }

  async onApplicationBootstrap(): Promise<void> {
    await this.restore();
    this.recent = await readFrames(this.dataSource, { limit: SHOWN });
    for (const row of await readTallies(this.dataSource))
      this.tallies.set(row.linkId, row.reason, row.count, row.lastAtMs);
    this.live.contribute('frames', () => this.recent);
    this.live.contribute('tallies', () => this.tallies.views());
    this.live.contribute('channels', () => [...this.channels].map(([linkId, past]) => ({ linkId, past })));
    this.database.onNotice<string[]>(
      'frames',
      (ids) => void this.showStoredElsewhere(ids).catch((error: unknown) => this.log.error(error)),
    );
    void this.readReceived();
    void this.readHanded();
  }

  /** What the database does not take now waits in a file for the next start. */
  async beforeApplicationShutdown(): Promise<void> {
    await this.store.flush();
    this.spool.keep(SPOOLED, this.store.takeAll());
  }

  /** Frames that waited when the last process ended: into the record before it is read. */
  private async restore(): Promise<void> {
    const frames = this.spool.take<FrameRecord>(SPOOLED);
    for (const frame of frames) {
      const raw = fromHex(frame.rawHex);
      const view =
        isMalformed(raw) || frame.direction === 'sent' || frame.trouble ? undefined : judge(raw).view;
      if (view) this.hearStation(view, frame);
      this.store.add(frame);
    }
    await this.store.flush();
    this.restored = frames.length;
  }

  private setAside(frames: readonly FrameRecord[]): void {
    this.refused += frames.length;
    this.log.error(
      `the database refuses ${frames.length} frames: ${frames.map(({ rawHex }) => rawHex).join(' ')}`,
    );
    this.spool.keep(`refused-frames-${this.clock.nowMs()}`, frames);
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
      const { trouble, view } = judge(raw);
      const record = this.keep({ linkId, atMs, raw, port, direction: 'heard', trouble });
      if (view) this.hearStation(view, record);
      if (++waiting % LARGEST_BATCH === 0) await this.store.flush();
    }
    await this.store.flush();
    this.recent = await readFrames(this.dataSource, { limit: SHOWN });
    this.live.refresh();
    return { taken: packets.length, refused };
  }

  private async readReceived(): Promise<void> {
    for await (const received of this.links.received) {
      try {
        this.take(received);
      } catch (error) {
        this.log.error(error);
      }
    }
  }

  private async readHanded(): Promise<void> {
    for await (const { linkId, port, atMs, raw } of this.transmitting.handed) {
      this.record({ linkId, atMs, raw, port, direction: 'sent' });
      this.noteOnAir(linkId, atMs, raw, laneOf('sent', undefined));
    }
  }

  private take({ linkId, event }: Received): void {
    if (event.kind === 'discard')
      this.record({
        linkId,
        atMs: event.atMs,
        raw: event.raw,
        port: 0,
        direction: 'heard',
        trouble: event.reason,
        times: event.times,
      });
    if (event.kind === 'stand-in')
      this.proveTalking(linkId, event.atMs, 'the far end says that it is a stand-in');
    if (event.kind === 'frame') this.hear(linkId, event.atMs, event.port, event.raw);
  }

  private hear(linkId: string, atMs: number, port: number, raw: Uint8Array): void {
    const { trouble, view } = judge(raw);
    const record = this.record({ linkId, atMs, raw, port, direction: 'heard', trouble });
    this.noteOnAir(linkId, atMs, raw, laneOf('heard', view && wayOf(view.frame.path).hops));
    if (!view) return;
    this.proveTalking(linkId, atMs, 'a KISS frame with a packet arrived');
    const words = `${view.frame.source} heard`;
    void this.proof.record({ linkId, rung: 'packet decoded', atMs, kind: 'frame', words, raw });
    this.hearStation(view, record);
    this.transmitting.hearEcho(linkId, raw, atMs);
  }

  /** A KISS frame that holds a packet, or the stand-in's own word; noise may look like a bare KISS frame. */
  private proveTalking(linkId: string, atMs: number, words: string): void {
    void this.proof.record({ linkId, rung: 'TNC talks', atMs, kind: 'link', words });
  }

  private hearStation({ frame, report }: FrameView, { atMs, id }: FrameRecord, write = true): void {
    this.stations.hear({ frame, report, heardAtMs: atMs, frameId: id }, write);
  }

  private noteOnAir(linkId: string, atMs: number, raw: Uint8Array, lane: number): void {
    const airMs = (bitsOnAir(raw) * 1000) / this.links.settings(linkId).airRate;
    this.channels.set(linkId, noteOnAir(this.channels.get(linkId) ?? [], { atMs, lane, airMs }));
  }

  private record(entry: Entry): FrameRecord {
    const record = this.keep(entry);
    this.show(record);
    return record;
  }

  /** Into the record, without telling the pages. */
  private keep({ linkId, atMs, raw, port, direction, trouble, times }: Entry): FrameRecord {
    const record = {
      id: uuidv7({ msecs: atMs, seq: this.sequence++ % SEQUENCES }),
      atMs,
      linkId,
      direction,
      port,
      rawHex: toHex(raw),
      ...(trouble ? { trouble } : {}),
      ...(times ? { times } : {}),
      stored: false,
    };
    if (direction === 'heard') this.tallies.add(record);
    this.store.add(record);
    return record;
  }

  private show(record: FrameRecord): void {
    this.recent.push(record);
    if (this.recent.length > SHOWN) this.recent.splice(0, this.recent.length - SHOWN);
    this.live.publish({ kind: 'frame', data: record });
  }

  private async tellStored(frames: readonly FrameRecord[]): Promise<void> {
    const ids = frames.map(({ id }) => id);
    const stored = new Set(ids);
    this.recent = this.recent.map((frame) => (stored.has(frame.id) ? { ...frame, stored: true } : frame));
    this.live.publish({ kind: 'stored', data: ids });
    for (const linkId of new Set(frames.map((frame) => frame.linkId)))
      this.live.publish({ kind: 'tally', data: this.tallies.view(linkId) });
    for (let at = 0; at < ids.length; at += IDS_PER_NOTICE)
      await this.database.notify('frames', ids.slice(at, at + IDS_PER_NOTICE)).catch(() => undefined);
  }

  /** Frames that another process on this database stored: shown here too. */
  private async showStoredElsewhere(ids: readonly string[]): Promise<void> {
    for (const record of await readFramesById(this.dataSource, ids)) {
      this.show(record);
      const raw = fromHex(record.rawHex);
      const view = isMalformed(raw) || record.direction === 'sent' ? undefined : viewFrame(raw);
      if (view && !isMalformed(view) && !record.trouble) this.hearStation(view, record, false);
    }
  }
}

/** What is wrong with the octets of a data frame, if anything, and what they say if they are a frame. */
function judge(raw: Uint8Array): { trouble?: Trouble; view?: FrameView } {
  const view = viewFrame(raw);
  if (isMalformed(view)) return { trouble: NOT_AX25 };
  return view.report?.type === 'unknown' ? { trouble: NOT_APRS, view } : { view };
}
