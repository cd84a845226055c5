import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who is looked after, how the desk stood last, and its duty log, of which nothing is ever dropped. */
export class Watch1700000039000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE watch (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb NOT NULL,
        version integer NOT NULL DEFAULT 0,
        desk jsonb
      )`);
    await runner.query(`
      CREATE TABLE duty_entry (
        id uuid PRIMARY KEY,
        number bigserial,
        at timestamptz(3) NOT NULL,
        kind text NOT NULL,
        call text,
        label text,
        need text,
        words text NOT NULL
      )`);
    await runner.query('CREATE INDEX duty_entry_at ON duty_entry (at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['duty_entry', 'watch']) await runner.query(`DROP TABLE ${table}`);
  }
}
