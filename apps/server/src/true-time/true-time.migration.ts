import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the record holds by a clock that was wrong, and what is added to that clock until the computer’s is set. */
export class TrueTime1700000048000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE wrong_time (
        id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
        from_ms bigint NOT NULL,
        to_ms bigint NOT NULL,
        off_by_ms bigint NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE time_correction (
        id integer PRIMARY KEY CHECK (id = 1),
        boot_id text NOT NULL,
        booted_at_ms bigint NOT NULL,
        by_ms bigint NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE time_correction');
    await runner.query('DROP TABLE wrong_time');
  }
}
