import type { DataSource } from 'typeorm';
import type { CallSign } from '@mistpeak/core/callsign/callsign';
import type { FrameRecord, Trouble } from '@mistpeak/contract/frame';

interface FrameRow {
  readonly id: string;
  readonly heard_at: Date;
  readonly link_id: string;
  readonly direction: FrameRecord['direction'];
  readonly port: number;
  readonly raw: Buffer;
  readonly trouble: Trouble | null;
  readonly times: number;
}

const COLUMNS = 'id, heard_at, link_id, direction, port, raw, trouble, times';

/** Of entries with the same time the one with the smaller id is the earlier: no page's edge falls between them. */
const LAST_ID = 'ffffffff-ffff-ffff-ffff-ffffffffffff';

/** The last frames before an entry, or before a time (ms), oldest first. */
export async function readFrames(
  database: DataSource,
  { limit, beforeMs, beforeId }: { limit: number; beforeMs?: number; beforeId?: string },
): Promise<FrameRecord[]> {
  const at = beforeMs === undefined ? 'infinity' : new Date(beforeMs).toISOString();
  // Of a bare time everything at it is left out, as with the id of its first entry.
  const id = beforeId ?? (beforeMs === undefined ? LAST_ID : '00000000-0000-0000-0000-000000000000');
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

function recordOf({ id, heard_at, link_id, direction, port, raw, trouble, times }: FrameRow): FrameRecord {
  return {
    id,
    atMs: heard_at.getTime(),
    linkId: link_id,
    direction,
    port,
    rawHex: raw.toString('hex'),
    ...(trouble ? { trouble } : {}),
    ...(times > 1 ? { times } : {}),
    stored: true,
  };
}
