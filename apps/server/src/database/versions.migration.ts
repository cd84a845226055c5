import type { MigrationInterface, QueryRunner } from 'typeorm';

const VERSIONED = ['operator', 'own_station', 'link', 'beacon', 'kit_item', 'saved_chain'];

/** Rows that are edited in forms are numbered anew with every change; a saved chain has a name. */
export class Versions1700000018000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const table of VERSIONED)
      await runner.query(`ALTER TABLE ${table} ADD COLUMN version integer NOT NULL DEFAULT 1`);
    await runner.query(`ALTER TABLE saved_chain ADD COLUMN name text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of VERSIONED) await runner.query(`ALTER TABLE ${table} DROP COLUMN version`);
    await runner.query('ALTER TABLE saved_chain DROP COLUMN name');
  }
}
