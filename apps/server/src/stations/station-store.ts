import type { Station } from '@mistpeak/core/stations/station';
import type { Track, TrackPoint } from '@mistpeak/contract/station';
import type { DataSource, EntityManager } from 'typeorm';

/** A page draws no more; the latest are kept. */
const MOST_POINTS = 30_000;

export async function storeStations(manager: EntityManager, stations: readonly Station[]): Promise<void> {
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
}

export async function clearStations(manager: EntityManager): Promise<void> {
  await manager.query('TRUNCATE station, position');
}

/** Each of them at its present place. */
export async function storePositions(manager: EntityManager, stations: readonly Station[]): Promise<void> {
  await manager.query(
    `INSERT INTO position (name, heard_at, latitude_deg, longitude_deg, by_internet)
     SELECT * FROM unnest($1::text[], $2::timestamptz[], $3::float8[], $4::float8[], $5::boolean[])
     ON CONFLICT DO NOTHING`,
    [
      stations.map(({ name }) => name),
      stations.map(({ heardAtMs }) => new Date(heardAtMs).toISOString()),
      stations.map(({ position }) => position?.latitudeDeg),
      stations.map(({ position }) => position?.longitudeDeg),
      stations.map(({ positionBy }) => positionBy === 'internet'),
    ],
  );
}

interface PositionRow {
  readonly name: string;
  readonly heard_at: Date;
  readonly latitude_deg: number;
  readonly longitude_deg: number;
  readonly by_internet: boolean;
}

/** Positions since a time (ms), by station, oldest first; stations at one place only are left out. */
export async function readTracks(database: DataSource, sinceMs: number, name?: string): Promise<Track[]> {
  const rows: PositionRow[] = await database.query(
    `SELECT name, heard_at, latitude_deg, longitude_deg, by_internet FROM position
       WHERE heard_at >= $1 AND ($2::text IS NULL OR name = $2)
       ORDER BY heard_at DESC LIMIT $3`,
    [new Date(sinceMs).toISOString(), name ?? null, MOST_POINTS],
  );
  const tracks = new Map<string, TrackPoint[]>();
  for (const row of rows.reverse()) {
    const place = [row.heard_at.getTime(), row.latitude_deg, row.longitude_deg] as const;
    const point: TrackPoint = row.by_internet ? [...place, true] : place;
    const known = tracks.get(row.name);
    if (known) known.push(point);
    else tracks.set(row.name, [point]);
  }
  return [...tracks].flatMap(([name, points]) => (points.length > 1 ? { name, points } : []));
}
