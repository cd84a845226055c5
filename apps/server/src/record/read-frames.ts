import type { DataSource, EntityManager } from 'typeorm';
import type { CallSign } from '@mistpeak/core/callsign/callsign';
import { storedLine } from './stored-line.js';
import type { FrameRecord, Measures, Origin, Trouble } from '@mistpeak/contract/frame';

interface FrameRow {
  readonly id: string;
  readonly heard_at: Date;
  readonly link_id: string;
  readonly direction: FrameRecord['direction'];
  readonly port: number;
  readonly raw: Buffer;
  readonly trouble: Trouble | null;
  readonly times: number;
  readonly origin: Origin;
  readonly measures: Measures | null;
  readonly line: string | null;
  readonly modulo: number;
}

const COLUMNS = 'id, heard_at, link_id, direction, port, raw, trouble, times, origin, measures, line, modulo';

/** Of entries with the same time the one with the smaller id is the earlier: no page's edge falls between them. */
const FIRST_ID = '00000000-0000-0000-0000-000000000000';
const LAST_ID = 'ffffffff-ffff-ffff-ffff-ffffffffffff';

/** The last frames before an entry, or before a time (ms), oldest first. */
export async function readFrames(
  database: DataSource,
  { limit, beforeMs, beforeId }: { limit: number; beforeMs?: number; beforeId?: string },
): Promise<FrameRecord[]> {
  const at = beforeMs === undefined ? 'infinity' : new Date(beforeMs).toISOString();
  // Of a bare time everything at it is left out, as with the id of its first entry.
  const id = beforeId ?? (beforeMs === undefined ? LAST_ID : FIRST_ID);
  const rows: FrameRow[] = await database.query(
    `SELECT ${COLUMNS} FROM frames
     WHERE heard_at <= $1 AND (heard_at, id) < ($1::timestamptz, $2::uuid) ORDER BY heard_at DESC, id DESC LIMIT $3`,
    [at, id, limit],
  );
  return rows.reverse().map(recordOf);
}

/** The source address of a frame: six characters shifted left by one, and the SSID in bits 1–4 (AX.25 2.2, "Address field"). */
export async function readFramesFrom(
  database: DataSource,
  { call, ssid }: CallSign,
  limit: number,
): Promise<FrameRecord[]> {
  const octets = Buffer.from(call.padEnd(6), 'latin1').map((octet) => octet << 1);
  const rows: FrameRow[] = await database.query(
    `SELECT ${COLUMNS} FROM frames
     WHERE substring(raw FROM 8 FOR 6) = $1 AND length(raw) > 13 AND (get_byte(raw, 13) >> 1) & 15 = $2
     ORDER BY heard_at DESC, id DESC LIMIT $3`,
    [Buffer.from(octets), ssid, limit],
  );
  return rows.reverse().map(recordOf);
}

/** The first frames from a time (ms) on that are not newer than another, oldest first; those of the last one's time come whole. */
export async function readStretch(
  database: DataSource,
  fromMs: number,
  untilMs: number,
  many: number,
): Promise<FrameRecord[]> {
  const from = fromMs === -Infinity ? '-infinity' : new Date(fromMs).toISOString();
  const rows: FrameRow[] = await database.query(
    `SELECT ${COLUMNS} FROM frames WHERE heard_at >= $1 AND heard_at <= $2
     ORDER BY heard_at FETCH FIRST $3 ROWS WITH TIES`,
    [from, new Date(untilMs).toISOString(), many],
  );
  return rows.map(recordOf);
}

/** An entry without what is known of it, as it is looked through by the hundred. */
export interface RawEntry {
  readonly id: string;
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly line: string | undefined;
}

/** A word, small letters and digits, that must stand in an entry: in its octets as it is, or in an address of the frame. */
export interface SoughtWord {
  readonly text: string;
  /** The octets that it has there, in capitals and in small letters. */
  readonly inAddress: readonly [Buffer, Buffer];
}

/**
 * Every entry from a time (ms) to before another, oldest first. words: those that cannot hold them all stay in the database;
 * lines of the internet side all come.
 */
export async function readRawWithin(
  database: DataSource,
  fromMs: number,
  beforeMs: number,
  words: readonly SoughtWord[] = [],
): Promise<RawEntry[]> {
  const holds = words.map((_, i) => {
    const [text, capital, small] = [3, 4, 5].map((first) => `$${first + 3 * i}`);
    return `AND (line IS NOT NULL OR position(${text} in lower(encode(raw, 'escape'))) > 0
      OR position(${capital}::bytea in raw) > 0 OR position(${small}::bytea in raw) > 0)`;
  });
  const rows: { id: string; heard_at: Date; raw: Buffer; line: string | null }[] = await database.query(
    `SELECT id, heard_at, raw, line FROM frames WHERE heard_at >= $1 AND heard_at < $2 ${holds.join(' ')} ORDER BY heard_at, id`,
    [
      new Date(fromMs).toISOString(),
      new Date(beforeMs).toISOString(),
      ...words.flatMap(({ text, inAddress }) => [text, ...inAddress]),
    ],
  );
  return rows.map(({ id, heard_at, raw, line }) => ({
    id,
    atMs: heard_at.getTime(),
    raw,
    line: line === null ? undefined : storedLine(line),
  }));
}

export async function readFramesById(database: DataSource, ids: readonly string[]): Promise<FrameRecord[]> {
  const rows: FrameRow[] = await database.query(
    `SELECT ${COLUMNS} FROM frames WHERE id = ANY ($1::uuid[]) ORDER BY heard_at, id`,
    [ids],
  );
  return rows.map(recordOf);
}

export async function readTallies(
  database: DataSource,
): Promise<{ linkId: string; reason: string; count: number; lastAtMs: number }[]> {
  const rows: { link_id: string; reason: string; count: string; last_at: Date }[] = await database.query(
    'SELECT link_id, reason, count, last_at FROM tally',
  );
  return rows.map((row) => ({
    linkId: row.link_id,
    reason: row.reason,
    count: Number(row.count),
    lastAtMs: row.last_at.getTime(),
  }));
}

/** Every entry, or those from a time (ms) on, oldest first, so many at a time. */
export async function* eachFrame(
  manager: EntityManager,
  many: number,
  sinceMs?: number,
): AsyncGenerator<FrameRecord[]> {
  const first = sinceMs === undefined ? '-infinity' : new Date(sinceMs).toISOString();
  let last: FrameRow | undefined;
  for (;;) {
    const rows: FrameRow[] = await manager.query(
      `SELECT ${COLUMNS} FROM frames WHERE (heard_at, id) > ($1::timestamptz, $2::uuid)
       ORDER BY heard_at, id LIMIT $3`,
      [last?.heard_at.toISOString() ?? first, last?.id ?? FIRST_ID, many],
    );
    if (rows.length === 0) return;
    yield rows.map(recordOf);
    last = rows.at(-1);
  }
}

/** The tallies are a view too: counted from the frames. */
export async function countTallies(manager: EntityManager): Promise<void> {
  await manager.query('TRUNCATE tally');
  await manager.query(
    `INSERT INTO tally (link_id, reason, count, last_at)
     SELECT link_id, coalesce(trouble, 'frame'), sum(times), max(heard_at)
     FROM frames WHERE direction = 'heard' GROUP BY link_id, coalesce(trouble, 'frame')`,
  );
}

function recordOf(row: FrameRow): FrameRecord {
  const { id, heard_at, link_id, direction, port, raw, trouble, times, origin, measures, line, modulo } = row;
  return {
    id,
    atMs: heard_at.getTime(),
    linkId: link_id,
    direction,
    port,
    origin,
    rawHex: raw.toString('hex'),
    ...(trouble ? { trouble } : {}),
    ...(times > 1 ? { times } : {}),
    ...(measures ? { measures } : {}),
    ...(line === null ? {} : { line: storedLine(line) }),
    ...(modulo === 128 ? { modulo } : {}),
    stored: true,
  };
}
