import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Notes, trips, and how everything was set at which time. */
export class Logbook1700000045000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE logbook_note (
        id uuid PRIMARY KEY,
        at timestamptz(3) NOT NULL,
        words text NOT NULL,
        picture bytea
      )`);
    await runner.query(`
      CREATE TABLE trip (
        id uuid PRIMARY KEY,
        settings jsonb NOT NULL,
        version integer NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE moment (
        id uuid PRIMARY KEY,
        at timestamptz(3) NOT NULL,
        facts jsonb NOT NULL,
        changes jsonb NOT NULL
      )`);
    await runner.query('CREATE INDEX moment_at ON moment (at)');
    await runner.query('CREATE INDEX logbook_note_at ON logbook_note (at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['moment', 'trip', 'logbook_note']) await runner.query(`DROP TABLE ${table}`);
  }
}
