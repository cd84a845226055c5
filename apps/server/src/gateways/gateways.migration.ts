import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who can be called, what is told of them differently, what columns of lists mean, and tries told by hand. */
export class Gateways1700000044000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE TABLE facility (key text PRIMARY KEY, facility jsonb NOT NULL)');
    await runner.query(`
      CREATE TABLE facility_conflict (
        id text PRIMARY KEY,
        conflict jsonb NOT NULL,
        is_decided boolean NOT NULL DEFAULT false
      )`);
    await runner.query('CREATE TABLE list_mapping (columns text PRIMARY KEY, mapping jsonb NOT NULL)');
    await runner.query(`
      CREATE TABLE gateway_report (
        id uuid PRIMARY KEY,
        at timestamptz NOT NULL,
        report jsonb NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['gateway_report', 'list_mapping', 'facility_conflict', 'facility'])
      await runner.query(`DROP TABLE ${table}`);
  }
}
