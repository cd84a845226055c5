import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was seen to before leaving, and how the computer came back from its last power cut. */
export class Departure1700000046000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE TABLE departure_tick (id text PRIMARY KEY, at timestamptz NOT NULL)');
    await runner.query(`
      CREATE TABLE power_cut (
        id integer PRIMARY KEY CHECK (id = 1),
        asked jsonb,
        cut jsonb
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE power_cut');
    await runner.query('DROP TABLE departure_tick');
  }
}
