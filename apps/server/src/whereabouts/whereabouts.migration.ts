import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The receiver that tells where we are; places by name, and when one was there. */
export class Whereabouts1700000030000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE position_receiver (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb NOT NULL,
        version integer NOT NULL DEFAULT 1
      )`);
    await runner.query(`
      CREATE TABLE place_label (
        id uuid PRIMARY KEY,
        name text NOT NULL,
        place text NOT NULL,
        radius_m integer NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE place_visit (
        id uuid PRIMARY KEY,
        place_id uuid NOT NULL REFERENCES place_label (id) ON DELETE CASCADE,
        since timestamptz(3) NOT NULL,
        until timestamptz(3)
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE place_visit');
    await runner.query('DROP TABLE place_label');
    await runner.query('DROP TABLE position_receiver');
  }
}
