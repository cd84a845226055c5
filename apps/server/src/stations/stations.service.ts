import { Injectable, type OnModuleInit } from '@nestjs/common';
import { hear, stationName, type Heard, type Station } from '@mistpeak/core/stations/station';
import { DataSource, type EntityManager } from 'typeorm';
import { LiveService } from '../live/live.service.js';

/** More than this many are not kept at hand; the longest unheard go first. */
const MOST_KNOWN = 10_000;

/** Who is there: core's fold over every frame, kept at hand and written behind with the frames. */
@Injectable()
export class StationsService implements OnModuleInit {
  private readonly known = new Map<string, Station>();
  private readonly changed = new Set<string>();

  constructor(
    private readonly database: DataSource,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    const rows: { known: Station }[] = await this.database.query(
      'SELECT known FROM station ORDER BY heard_at DESC LIMIT $1',
      [MOST_KNOWN],
    );
    for (const { known } of rows.reverse()) this.known.set(known.name, known);
    this.live.contribute('stations', () => [...this.known.values()]);
  }

  /** write: false for frames that another process stores. */
  hear(heard: Heard, write = true): void {
    const name = stationName(heard);
    const station = hear(this.known.get(name), heard);
    // Taken out and put in again: the map stays in the order of the last hearing.
    this.known.delete(name);
    this.known.set(name, station);
    if (this.known.size > MOST_KNOWN) this.known.delete(this.known.keys().next().value as string);
    if (write) this.changed.add(name);
  }

  /** Writes what changed since the last call, within the caller's transaction. Returns how to take it as unwritten again. */
  async store(manager: EntityManager): Promise<() => void> {
    const names = [...this.changed];
    this.changed.clear();
    const stations = names.flatMap((name) => this.known.get(name) ?? []);
    const undo = (): void => names.forEach((name) => this.changed.add(name));
    if (stations.length === 0) return undo;
    try {
      await manager.query(
        `INSERT INTO station (name, heard_at, known)
         SELECT name, heard_at, known FROM unnest($1::text[], $2::timestamptz[], $3::jsonb[]) AS t (name, heard_at, known)
         ON CONFLICT (name) DO UPDATE SET heard_at = excluded.heard_at, known = excluded.known`,
        [
          stations.map(({ name }) => name),
          stations.map(({ heardAtMs }) => new Date(heardAtMs).toISOString()),
          stations.map((station) => JSON.stringify(station)),
        ],
      );
    } catch (error) {
      undo();
      throw error;
    }
    return undo;
  }
}
