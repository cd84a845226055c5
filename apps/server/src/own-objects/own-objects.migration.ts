import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Objects and items that this station tells others of, and how far their life has come. */
export class OwnObjects1700000041000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE own_object (
        id uuid PRIMARY KEY,
        settings jsonb NOT NULL,
        state jsonb NOT NULL,
        version integer NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE own_object');
  }
}
