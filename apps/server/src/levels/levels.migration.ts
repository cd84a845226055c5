import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Levels1700000027000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE level_result (
        id uuid PRIMARY KEY,
        link_id uuid REFERENCES link (id) ON DELETE CASCADE,
        at timestamptz(3) NOT NULL,
        check_kind text NOT NULL,
        words text NOT NULL,
        number text NOT NULL,
        turn text NOT NULL,
        is_in_window boolean,
        level_dbfs double precision
      )`);
    await runner.query('CREATE INDEX level_result_at ON level_result (at DESC)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE level_result');
  }
}
