import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Chain1700000007000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE chain (
        link_id uuid PRIMARY KEY REFERENCES link (id) ON DELETE CASCADE,
        purpose text NOT NULL,
        radio text NOT NULL,
        cable text NOT NULL,
        host text NOT NULL,
        is_moving boolean NOT NULL DEFAULT false
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE chain');
  }
}
