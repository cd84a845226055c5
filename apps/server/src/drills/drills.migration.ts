import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What one has practised, and how it went. */
export class Drills1700000047000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE drill_result (id uuid PRIMARY KEY, at timestamptz NOT NULL, result jsonb NOT NULL)',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE drill_result');
  }
}
