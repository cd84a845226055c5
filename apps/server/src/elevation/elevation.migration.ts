import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Tiles as their files hold them, deflated: a fine one has 26 MB. */
export class Elevation1700000028000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE elevation_tile (
        name text PRIMARY KEY,
        size integer NOT NULL,
        deflated bytea NOT NULL
      )`);
    await runner.query('ALTER TABLE elevation_tile ALTER COLUMN deflated SET STORAGE EXTERNAL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE elevation_tile');
  }
}
