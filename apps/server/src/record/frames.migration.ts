import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The record: raw frames, cut into months by time; no other table refers to them. */
export class Hearing1700000004000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE frames (
        id uuid NOT NULL,
        heard_at timestamptz(3) NOT NULL,
        link_id uuid NOT NULL,
        direction text NOT NULL CHECK (direction IN ('heard', 'sent')),
        port smallint NOT NULL,
        raw bytea NOT NULL,
        trouble text,
        PRIMARY KEY (id, heard_at)
      ) PARTITION BY RANGE (heard_at)`);
    await runner.query('CREATE INDEX frames_heard_at ON frames USING brin (heard_at)');
    await runner.query(`
      CREATE TABLE tally (
        link_id uuid NOT NULL,
        reason text NOT NULL,
        count bigint NOT NULL,
        last_at timestamptz(3) NOT NULL,
        PRIMARY KEY (link_id, reason)
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE tally');
    await runner.query('DROP TABLE frames');
  }
}
