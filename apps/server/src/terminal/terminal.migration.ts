import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Saved stations and macros, and visits that ran by themselves. */
export class Terminal1700000036000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE terminal_settings (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb NOT NULL,
        version integer NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE session_visit (
        id uuid PRIMARY KEY,
        at timestamptz(3) NOT NULL,
        view jsonb NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['session_visit', 'terminal_settings']) await runner.query(`DROP TABLE ${table}`);
  }
}
