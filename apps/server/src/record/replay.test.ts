import pg from 'pg';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { linkedBench } from '../testing/linked-bench.js';
import { until } from '../testing/server-up.js';

/** From N0CALL-SSID to APZMPK, UI, in a KISS data frame for port 2. */
const frame = (ssid: number, text: string): string =>
  `c02082a0b49aa096e09c6086829898${(0x60 | (ssid << 1) | 1).toString(16)}03f0${Buffer.from(text).toString('hex')}c0`;

const query = async <Row>(sql: string): Promise<Row[]> => {
  const client = new pg.Client({ connectionString: bench.databaseUrl });
  await client.connect();
  const { rows } = await client.query(sql);
  await client.end();
  return rows as Row[];
};
/** The views of the record as the database has them. */
const views = async () => ({
  tally: await query('SELECT * FROM tally ORDER BY reason'),
  station: await query('SELECT * FROM station ORDER BY name'),
  position: await query('SELECT * FROM position ORDER BY name, heard_at'),
});

const bench = linkedBench();

it('an entry keeps its port and the way it came', async () => {
  bench.peer.send(frame(3, '!2937.92S/01124.30W-at home'));
  const [first] = await until('an entry', async () => {
    const { body } = await bench.server.ask<FrameRecord[]>('GET', '/frames?limit=10');
    return body.length > 0 ? body : undefined;
  });
  expect(first).toMatchObject({ port: 2, origin: 'kiss', direction: 'heard' });
});

it('reading the record again makes every view as it was, and mends one that was spoilt', async () => {
  bench.peer.send(frame(3, '!2938.92S/01124.30W-moved') + frame(4, '>status') + 'c00001c0' + 'c0000202c0');
  await until('all stored', async () =>
    (await query('SELECT 1 FROM frames')).length === 5 ? true : undefined,
  );
  const before = await views();
  expect([before.station.length, before.position.length, before.tally.length]).toEqual([2, 2, 2]);
  await query("UPDATE station SET known = '{}'");
  await query('UPDATE tally SET count = 99');
  await query('DELETE FROM position');
  expect(await bench.server.ask('POST', '/record/replay')).toMatchObject({ status: 200, body: { read: 5 } });
  expect(await views()).toEqual(before);
  // And it goes on from there.
  bench.peer.send(frame(4, '>again'));
  await until(
    'counted',
    async () =>
      (await query<{ count: string }>("SELECT count FROM tally WHERE reason = 'frame'"))[0]?.count === '4' ||
      undefined,
  );
});
