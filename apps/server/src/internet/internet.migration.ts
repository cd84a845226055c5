import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The connection to the internet service; which gates a frame of ours reached; which places came by the internet. */
export class Internet1700000033000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE internet_side (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb NOT NULL,
        version integer NOT NULL
      )`);
    await runner.query('ALTER TABLE position ADD COLUMN by_internet boolean NOT NULL DEFAULT false');
    await runner.query("ALTER TABLE transmission ADD COLUMN gates jsonb NOT NULL DEFAULT '[]'");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE transmission DROP COLUMN gates');
    await runner.query('ALTER TABLE position DROP COLUMN by_internet');
    await runner.query('DROP TABLE internet_side');
  }
}
