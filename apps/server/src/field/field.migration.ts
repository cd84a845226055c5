import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What feeds the station in the field, and what its battery was found to hold. */
export class Field1700000043000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE field (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb NOT NULL,
        version integer NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE battery_reading (
        id uuid PRIMARY KEY,
        at timestamptz NOT NULL,
        reading jsonb NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE battery_reading');
    await runner.query('DROP TABLE field');
  }
}
