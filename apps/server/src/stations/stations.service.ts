import { Injectable, Logger, type OnModuleInit } from '@nestjs/common';
import { hear, stationName, type Heard, type Station } from '@mistpeak/core/stations/station';
import type { Track } from '@mistpeak/contract/station';
import { DataSource, type EntityManager } from 'typeorm';
import { LiveService } from '../live/live.service.js';
import { RecordService, type ReadFrame, type RecordView } from '../record/record.service.js';
import { TrafficService } from '../traffic/traffic.service.js';
import { clearStations, readTracks, storePositions, storeStations } from './station-store.js';

/** More than this many are not kept at hand; the longest unheard go first. */
const MOST_KNOWN = 10_000;

/** Who is there: core's fold over every frame, kept at hand and written behind with the frames. */
@Injectable()
export class StationsService implements OnModuleInit {
  private readonly log = new Logger('stations');
  private readonly known = new Map<string, Station>();
  private readonly changed = new Set<string>();
  /** Stations at a new place, not yet written. */
  private moved: Station[] = [];

  constructor(
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly traffic: TrafficService,
    private readonly record: RecordService,
  ) {}

  async onModuleInit(): Promise<void> {
    const rows: { known: Station }[] = await this.database.query(
      'SELECT known FROM station ORDER BY heard_at DESC LIMIT $1',
      [MOST_KNOWN],
    );
    for (const { known } of rows.reverse()) this.known.set(known.name, known);
    this.live.contribute('stations', () => [...this.known.values()]);
    const view: RecordView = {
      clear: (manager) => this.clear(manager),
      read: (frame, isStored) => this.note(frame, !isStored),
      store: (manager) => this.store(manager),
      dropChanges: () => this.dropChanges(),
    };
    this.record.keepAlongside(view);
    this.traffic.take('stations', { heard: (frame) => this.note(frame) });
  }

  /** Everybody heard, objects among them. */
  calls(): { name: string; heardAtMs: number }[] {
    return [...this.known.values()].map(({ name, heardAtMs }) => ({ name, heardAtMs }));
  }

  private note({ view, atMs, id, origin }: ReadFrame, write = true): void {
    if (!view) return;
    const byInternet = origin === 'internet';
    this.hear({ frame: view.frame, report: view.report, heardAtMs: atMs, frameId: id, byInternet }, write);
  }

  /** Before all is read again. */
  private async clear(manager: EntityManager): Promise<void> {
    await clearStations(manager);
    this.known.clear();
    this.changed.clear();
    this.moved = [];
  }

  /** write: false for frames that another process stores. */
  private hear(heard: Heard, write = true): void {
    const name = stationName(heard);
    const before = this.known.get(name);
    const station = hear(before, heard);
    if (write && hasMoved(before, station)) this.moved.push(station);
    // Taken out and put in again: the map stays in the order of the last hearing.
    this.known.delete(name);
    this.known.set(name, station);
    if (this.known.size > MOST_KNOWN) this.known.delete(this.known.keys().next().value as string);
    if (write) this.changed.add(name);
  }

  /** Leaves unwritten what changed so far: the database will never take something of it, and a replay can build it anew. */
  private dropChanges(): void {
    this.log.error(`what changed of ${[...this.changed].join(', ')} cannot be stored`);
    this.changed.clear();
    this.moved = [];
  }

  /** Where everything went since then; name: one alone. */
  tracks(sinceMs: number, name?: string): Promise<Track[]> {
    return readTracks(this.database, sinceMs, name);
  }

  /** Writes what changed since the last call, within the caller's transaction. Returns how to take it as unwritten again. */
  private async store(manager: EntityManager): Promise<() => void> {
    const names = [...this.changed];
    const moved = this.moved;
    this.changed.clear();
    this.moved = [];
    const stations = names.flatMap((name) => this.known.get(name) ?? []);
    const undo = (): void => {
      names.forEach((name) => this.changed.add(name));
      this.moved = [...moved, ...this.moved];
    };
    try {
      if (stations.length > 0) await storeStations(manager, stations);
      if (moved.length > 0) await storePositions(manager, moved);
    } catch (error) {
      undo();
      throw error;
    }
    return undo;
  }
}

function hasMoved(before: Station | undefined, { position }: Station): boolean {
  if (!position) return false;
  const last = before?.position;
  return position.latitudeDeg !== last?.latitudeDeg || position.longitudeDeg !== last.longitudeDeg;
}
