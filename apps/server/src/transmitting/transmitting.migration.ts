import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the operator armed and sent: no replay rebuilds these, no retention drops them. */
export class Transmitting1700000003000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE transmit_lock (
        link_id uuid PRIMARY KEY REFERENCES link (id) ON DELETE CASCADE,
        call text NOT NULL,
        armed_at timestamptz(3) NOT NULL,
        expires_at timestamptz(3) NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE transmission (
        id uuid PRIMARY KEY,
        link_id uuid NOT NULL,
        source text NOT NULL,
        purpose text NOT NULL,
        raw bytea NOT NULL,
        air_time_ms double precision NOT NULL,
        queued_at timestamptz(3) NOT NULL,
        handed_at timestamptz(3),
        state text NOT NULL CHECK (state IN ('queued', 'handed', 'abandoned')),
        echoes jsonb NOT NULL DEFAULT '[]'
      )`);
    await runner.query('CREATE INDEX transmission_queued_at ON transmission (queued_at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['transmission', 'transmit_lock']) await runner.query(`DROP TABLE ${table}`);
  }
}
