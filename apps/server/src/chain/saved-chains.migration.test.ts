import pg from 'pg';
import type { QueryRunner } from 'typeorm';
import type { Item } from '@mistpeak/core/kit/item';
import { Links1700000002000 } from '../links/links.migration.js';
import { Operator1700000001000 } from '../operator/operator.migration.js';
import { Proof1700000002500 } from '../proof/proof.migration.js';
import { makeDatabase } from '../testing/server-up.js';
import { Chain1700000007000 } from './chain.migration.js';
import { SavedChains1700000012000 } from './saved-chains.migration.js';

const LINK = '11111111-1111-4111-8111-111111111111';
const OTHER = '22222222-2222-4222-8222-222222222222';

it('a chain of three names becomes one of parts with those names, and one of them is on the Bench', async () => {
  const client = new pg.Client({ connectionString: await makeDatabase() });
  await client.connect();
  const rows = async <Row>(sql: string, values: unknown[] = []): Promise<Row[]> =>
    (await client.query(sql, values)).rows as Row[];
  const runner = { query: rows } as unknown as QueryRunner;
  const before = [Operator1700000001000, Links1700000002000, Proof1700000002500, Chain1700000007000];
  for (const Migration of before) await new Migration().up(runner);
  for (const id of [LINK, OTHER])
    await rows(
      `INSERT INTO link (id, name, kind, air_rate, tx_delay_ms, persistence, slot_time_ms, tx_tail_ms, wanted_open)
       VALUES ($1, 'hut TNC', 'network', 1200, 300, 0.25, 100, 30, false)`,
      [id],
    );
  for (const id of [LINK, OTHER])
    await rows(`INSERT INTO chain VALUES ($1, 'receive', 'hut radio', 'grey cable', 'old laptop', true)`, [
      id,
    ]);

  await new SavedChains1700000012000().up(runner);

  const saved = await rows<{ parts: Item[]; purpose: string; is_moving: boolean; on_bench: boolean }>(
    'SELECT * FROM saved_chain ORDER BY link_id',
  );
  expect(saved.map(({ on_bench }) => on_bench)).toEqual([true, false]);
  expect(saved[0]).toMatchObject({ purpose: 'receive', is_moving: true, link_id: LINK });
  expect(saved[0]?.parts.map(({ name }) => name)).toEqual([
    'hut radio',
    'grey cable',
    'hut TNC',
    'old laptop',
    'Mistpeak',
  ]);
  await client.end();
});
