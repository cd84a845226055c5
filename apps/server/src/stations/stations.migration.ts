import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A view of the frames: replaying them makes this table again. */
export class Stations1700000005000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE station (
        name text PRIMARY KEY,
        heard_at timestamptz(3) NOT NULL,
        known jsonb NOT NULL
      )`);
    await runner.query('CREATE INDEX station_heard_at ON station (heard_at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE station');
  }
}
