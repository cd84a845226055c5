import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Where stations were: a view of the frames, like station. */
export class Positions1700000009000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE position (
        name text NOT NULL,
        heard_at timestamptz(3) NOT NULL,
        latitude_deg double precision NOT NULL,
        longitude_deg double precision NOT NULL,
        PRIMARY KEY (name, heard_at)
      )`);
    await runner.query('CREATE INDEX position_heard_at ON position (heard_at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE position');
  }
}
