import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Kit1700000011000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE kit_item (
        id text PRIMARY KEY,
        place integer NOT NULL,
        item jsonb NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE kit_item');
  }
}
