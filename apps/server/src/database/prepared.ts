import type { Pool, QueryConfig } from 'pg';
import type { DataSource } from 'typeorm';

/** A statement that each connection parses and plans once (PostgreSQL, "PREPARE"): for the one that an operator's command waits for. Returns its rows. */
export async function prepared(
  { driver }: DataSource,
  statement: Required<Pick<QueryConfig, 'name'>> & QueryConfig,
  values: unknown[],
): Promise<unknown[]> {
  const { master: pool } = driver as unknown as { master: Pool };
  return (await pool.query<Record<string, unknown>>({ ...statement, values })).rows;
}
