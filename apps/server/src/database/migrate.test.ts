import pg from 'pg';
import { MIGRATIONS } from '../app.module.js';
import { PlainWords } from '../plain-words.js';
import { makeDatabase } from '../testing/server-up.js';
import { migrate } from './migrate.js';

async function ask<Row>(url: string, sql: string): Promise<Row[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query(sql);
  await client.end();
  return rows as Row[];
}

describe('the tables', () => {
  it('are made once, also by two processes at the same moment', async () => {
    const url = await makeDatabase();
    await Promise.all([migrate(url, MIGRATIONS), migrate(url, MIGRATIONS)]);
    const done = await ask<{ name: string }>(url, 'SELECT name FROM migrations ORDER BY id');
    expect(done.map(({ name }) => name)).toEqual(MIGRATIONS.map(({ name }) => name));
  });

  it('of a newer program are left as they are, and it is said in words', async () => {
    const url = await makeDatabase();
    await migrate(url, MIGRATIONS);
    await ask(url, "INSERT INTO migrations (timestamp, name) VALUES (9, 'Newer1900000000000')");
    const older = MIGRATIONS.slice(0, -1);
    for (const known of [MIGRATIONS, older])
      await expect(migrate(url, known)).rejects.toThrow(
        /written by a newer Mistpeak \(.*Newer1900000000000\)\. Start that one/,
      );
    await expect(migrate(url, MIGRATIONS)).rejects.toBeInstanceOf(PlainWords);
  });

  it('behind a wrong key are not tried for long', async () => {
    const url = new URL(await makeDatabase());
    url.password = 'lost';
    await expect(migrate(url.href, MIGRATIONS)).rejects.toThrow(/refuses the key/);
  });
});
