import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How long what was heard is kept. */
export class Keeping1700000042000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE keeping (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb NOT NULL,
        version integer NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE keeping');
  }
}
