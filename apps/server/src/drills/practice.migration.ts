import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is practised now: one thing at a time, and it goes on after a restart. */
export class Practice1700000049000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE practice (
        id integer PRIMARY KEY CHECK (id = 1),
        begun_at timestamptz(3) NOT NULL,
        practised jsonb NOT NULL
      )`);
    await runner.query(
      'CREATE TABLE exercise_result (id uuid PRIMARY KEY, at timestamptz NOT NULL, result jsonb NOT NULL)',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['exercise_result', 'practice']) await runner.query(`DROP TABLE ${table}`);
  }
}
