import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Evidence is append-only: no replay rebuilds it, no retention drops it. */
export class Proof1700000002500 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE evidence (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        chain_id uuid,
        link_id uuid NOT NULL,
        rung text NOT NULL,
        at timestamptz(3) NOT NULL,
        kind text NOT NULL,
        raw bytea,
        figures jsonb NOT NULL DEFAULT '{}',
        words text NOT NULL
      )`);
    await runner.query('CREATE INDEX evidence_rung ON evidence (link_id, rung, at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE evidence');
  }
}
