import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Garbage is counted and summed: one entry may stand for many pieces. */
export class SummedScraps1700000016000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE frames ADD COLUMN times integer NOT NULL DEFAULT 1');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE frames DROP COLUMN times');
  }
}
