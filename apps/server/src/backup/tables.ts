import type { QueryRunner } from 'typeorm';

/** What is never taken along: how this database was made, and what is made of the rest. */
const NEVER = new Set(['migrations', 'record_stretch']);
/** Who is let in: only under a passphrase. */
export const SECRET_TABLES: ReadonlySet<string> = new Set(['role_password', 'login']);
/** What was heard: left out where it is not wished for. */
export const HEARD_TABLES: ReadonlySet<string> = new Set(['frames', 'position', 'station', 'tally']);

/** All tables in an order in which none stands before one that it refers to. */
export async function tablesInOrder(runner: QueryRunner): Promise<string[]> {
  const tables = await runner.manager.query<{ name: string }[]>(
    `SELECT c.relname AS name FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
     WHERE n.nspname = current_schema() AND c.relkind IN ('r', 'p') AND NOT c.relispartition ORDER BY 1`,
  );
  const references = await runner.manager.query<{ from: string; to: string }[]>(
    `SELECT DISTINCT conrelid::regclass::text AS from, confrelid::regclass::text AS to
     FROM pg_constraint WHERE contype = 'f' AND connamespace = current_schema()::regnamespace`,
  );
  const names = tables.map(({ name }) => name).filter((name) => !NEVER.has(name));
  const order: string[] = [];
  const visit = (name: string, above: readonly string[]): void => {
    if (order.includes(name) || above.includes(name)) return;
    for (const { from, to } of references) if (from === name) visit(to, [...above, name]);
    order.push(name);
  };
  for (const name of names) visit(name, []);
  return order;
}

export async function columnsOf(runner: QueryRunner, table: string): Promise<string[]> {
  const rows = await runner.manager.query<{ name: string }[]>(
    `SELECT column_name AS name FROM information_schema.columns
     WHERE table_schema = current_schema() AND table_name = $1 AND is_generated = 'NEVER' ORDER BY ordinal_position`,
    [table],
  );
  return rows.map(({ name }) => name);
}

/** What counts by itself goes on after the highest that is there. */
export async function advanceSequences(runner: QueryRunner, table: string): Promise<void> {
  const rows = await runner.manager.query<{ sequence: string; column: string }[]>(
    `SELECT column_name AS column, pg_get_serial_sequence($1, column_name) AS sequence
     FROM information_schema.columns WHERE table_schema = current_schema() AND table_name = $1
     AND pg_get_serial_sequence($1, column_name) IS NOT NULL`,
    [table],
  );
  for (const { sequence, column } of rows)
    await runner.query(
      `SELECT setval($1, coalesce((SELECT max(${quoted(column)}) FROM ${quoted(table)}), 0) + 1, false)`,
      [sequence],
    );
}

export const quoted = (name: string): string => `"${name.replace(/"/g, '""')}"`;
