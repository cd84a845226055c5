import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The operator need not say where he is; a region that is none of ours has a channel of its own. */
export class OpenPlace1700000019000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE operator ADD COLUMN channel_mhz double precision');
    await runner.query('ALTER TABLE operator ALTER COLUMN latitude_deg DROP NOT NULL');
    await runner.query('ALTER TABLE operator ALTER COLUMN longitude_deg DROP NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE operator DROP COLUMN channel_mhz');
    await runner.query('ALTER TABLE operator ALTER COLUMN latitude_deg SET NOT NULL');
    await runner.query('ALTER TABLE operator ALTER COLUMN longitude_deg SET NOT NULL');
  }
}
