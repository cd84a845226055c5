import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What is found by words: stretches of the record with the numbers of all three-letter runs in them, which are made of the
 * frames and can be made again. And the record by time, newest first, also where there are millions.
 */
export class Search1700000040000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE INDEX frames_time ON frames (heard_at, id)');
    await runner.query('DROP INDEX frames_heard_at');
    await runner.query(`
      CREATE TABLE record_stretch (
        from_at timestamptz(3) PRIMARY KEY,
        to_at timestamptz(3) NOT NULL,
        trigrams integer[] NOT NULL
      )`);
    await runner.query('CREATE INDEX record_stretch_to ON record_stretch (to_at)');
    await runner.query('CREATE INDEX record_stretch_trigrams ON record_stretch USING gin (trigrams)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE record_stretch');
    await runner.query('CREATE INDEX frames_heard_at ON frames USING brin (heard_at)');
    await runner.query('DROP INDEX frames_time');
  }
}
