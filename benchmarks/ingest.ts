import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { Station } from './station.js';

const SECONDS = 30;
/** At most this many frames on their way: the peer waits for the database, as a fast link would not. */
const WINDOW = 4000;
const STATIONS = 200;
const ROWS_PER_INSERT = 500;

/** Frames from the socket into PostgreSQL for 30 s, against bare multi-row INSERTs of the same rows. */
export async function ingestBenchmark(): Promise<void> {
  const station = await Station.up();
  const ours = await ingest(station);
  const bare = await bareInsert(station.databaseUrl);
  await station.down();
  console.log(
    `  stored ${Math.round(ours.rate)} frames/s for ${SECONDS} s, ${ours.dropped} dropped (aim 2000/s)`,
  );
  console.log(`  bare INSERT ${Math.round(bare)} rows/s: ratio ${(ours.rate / bare).toFixed(2)} (aim 0.50)`);
}

function frameOf(i: number): Uint8Array {
  const line = `QH7C${String(i % STATIONS)
    .padStart(2, '0')
    .slice(
      -2,
    )}-9>APZMPK,QH1ANR*,WIDE2-1:!2935.${String(i % 100).padStart(2, '0')}S/01122.20W>038/018frame ${i}`;
  return encodeFrame(parseMonitorText(line) as Ax25Frame);
}

async function ingest({ address, databaseUrl, peer }: Station): Promise<{ rate: number; dropped: number }> {
  const frames = Array.from({ length: WINDOW }, (_, i) =>
    encodeKiss({ port: 0, command: 'data', payload: frameOf(i) }),
  );
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  let stored = 0;
  let sent = 0;
  const count = async (): Promise<void> => {
    const { rows } = await client.query<{ sum: string | null }>('SELECT sum(count) FROM tally');
    stored = Number(rows[0]?.sum ?? 0);
  };
  const begun = performance.now();
  while (performance.now() - begun < SECONDS * 1000) {
    const room = WINDOW - (sent - stored);
    for (let i = 0; i < room; i++) peer.write(frames[sent++ % WINDOW] as Uint8Array);
    await count();
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  while (stored < sent) await count();
  const rate = sent / ((performance.now() - begun) / 1000);
  await client.end();
  const { dropped } = (await (await fetch(`${address}/api/v1/health`)).json()) as { dropped: number };
  return { rate, dropped };
}

/** The same columns, the same partitioned form and index, nothing else. */
export async function bareInsert(databaseUrl: string): Promise<number> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query(`CREATE TABLE bare (LIKE frames INCLUDING ALL) PARTITION BY RANGE (heard_at)`);
  await client.query(`CREATE TABLE bare_all PARTITION OF bare DEFAULT`);
  const link = randomUUID();
  const begun = performance.now();
  let rows = 0;
  while (performance.now() - begun < 10_000) {
    const values: unknown[] = [];
    const places = Array.from({ length: ROWS_PER_INSERT }, (_, i) => {
      values.push(randomUUID(), new Date(), link, 'heard', 0, Buffer.from(frameOf(rows + i)), null);
      return `(${[1, 2, 3, 4, 5, 6, 7].map((column) => `$${7 * i + column}`).join(',')})`;
    });
    await client.query(`INSERT INTO bare VALUES ${places.join(',')}`, values);
    rows += ROWS_PER_INSERT;
  }
  const rate = rows / ((performance.now() - begun) / 1000);
  await client.end();
  return rate;
}
