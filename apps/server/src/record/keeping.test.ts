import pg from 'pg';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import type { KeepingView } from '@mistpeak/contract/keeping';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { OPERATOR, TEST_CALL } from '../testing/server-up.js';

const clock = new MovedClock();
const bench = linkedBench({ clock });
const DAY = 86_400_000;
let client: pg.Client;
let count = 0;

/** An entry so many days old. */
async function keep(
  daysOld: number,
  {
    source = '1X9OTH',
    origin = 'kiss',
    direction = 'heard',
    trouble = null as string | null,
    line = null as string | null,
  } = {},
): Promise<void> {
  const raw = Buffer.from(encodeFrame(uiFrame(source, 'APZMPK', [], fromLatin1(`>${count}`))));
  const id = `00000000-0000-7000-8000-${String(++count).padStart(12, '0')}`;
  const at = new Date(clock.nowMs() - daysOld * DAY);
  const month = at.toISOString().slice(0, 7);
  const next = new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth() + 1, 1)).toISOString().slice(0, 10);
  await client.query(
    `CREATE TABLE IF NOT EXISTS frames_${month.replace('-', '_')} PARTITION OF frames FOR VALUES FROM ('${month}-01') TO ('${next}')`,
  );
  await client.query(
    `INSERT INTO frames (id, heard_at, link_id, direction, port, raw, trouble, origin, line)
     VALUES ($1, $2, '00000000-0000-4000-8000-000000000009', $3, 0, $4, $5, $6, $7)`,
    [id, at, direction, line === null ? raw : Buffer.alloc(0), trouble, origin, line],
  );
}
const left = async (): Promise<number> => {
  const { rows } = await client.query<{ count: string }>('SELECT count(*) FROM frames');
  return Number(rows[0]?.count);
};
const choose = async (days: object): Promise<number> => {
  const { settings } = (await bench.server.ask<KeepingView>('GET', '/record/keeping')).body;
  return (await bench.server.ask('PUT', '/record/keeping', { ...days, version: settings.version })).status;
};
const drop = async (): Promise<number> =>
  (await bench.server.ask<{ dropped: number }>('POST', '/record/keeping/drop')).body.dropped;

beforeAll(async () => {
  await bench.server.ask('PUT', '/operator', OPERATOR);
  client = new pg.Client({ connectionString: bench.databaseUrl });
  await client.connect();
});
afterAll(() => client.end());
beforeEach(() => client.query('DELETE FROM frames'));

it('nothing is dropped unless it is wanted', async () => {
  await keep(400);
  expect(await drop()).toBe(0);
  expect(await left()).toBe(1);
});

it('what is older than so many days, of its kind alone', async () => {
  expect(await choose({ radio: 30, internet: 2, scraps: 1 })).toBe(200);
  await keep(31);
  await keep(29);
  await keep(3, { origin: 'internet', line: '1X9OTH>APZMPK,TCPIP*:>x' });
  await keep(1, { origin: 'internet', line: '1X9OTH>APZMPK,TCPIP*:>x' });
  await keep(400, { origin: 'capture' });
  await keep(2, { trouble: 'bad escape' });
  await keep(2, { trouble: 'not APRS' });
  await keep(0.5, { trouble: 'bad escape' });
  expect(await drop()).toBe(3);
  expect(await left()).toBe(5);
});

it('nothing that we sent, and nothing that came back of it', async () => {
  await choose({ radio: 1, internet: 1, captures: 1, scraps: 1 });
  await keep(400, { direction: 'sent', source: `${TEST_CALL}-7`, origin: 'own' });
  await keep(400, { source: `${TEST_CALL}-7` });
  await keep(400, { origin: 'internet', line: `${TEST_CALL}-7>APZMPK,qAR,GATE:>x` });
  await keep(400, { origin: 'capture' });
  expect(await drop()).toBe(1);
  expect(await left()).toBe(3);
});

it('by itself within the hour', async () => {
  await choose({ radio: 30 });
  await keep(31);
  clock.pass(3_600_000);
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(await left()).toBe(0);
});

it('tells how large the record is, and since when', async () => {
  await keep(10);
  await keep(10);
  const { body } = await bench.server.ask<KeepingView>('GET', '/record/keeping');
  expect(body.octets).toBeGreaterThan(8000);
  // Also before PostgreSQL has reckoned how many there are; of many its reckoning is told.
  expect(body.entries).toBe(2);
  await client.query(
    `UPDATE pg_class SET reltuples = 12345 WHERE oid = (SELECT min(inhrelid) FROM pg_inherits WHERE inhparent = 'frames'::regclass)`,
  );
  const many = await bench.server.ask<KeepingView>('GET', '/record/keeping');
  expect(many.body.entries).toBe(12_345);
  expect(Math.round((clock.nowMs() - (body.oldestAtMs ?? 0)) / DAY)).toBe(10);
});

it.each([{ radio: 0 }, { internet: 3651 }, { scraps: 1.5 }])(
  'refuses %j, and a form that is older',
  async (days) => {
    expect(await choose(days)).toBe(400);
    expect((await bench.server.ask('PUT', '/record/keeping', { radio: 5, version: 0 })).status).toBe(409);
  },
);
