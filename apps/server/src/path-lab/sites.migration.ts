import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Sites1700000029000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE path_site (
        call text PRIMARY KEY,
        role text NOT NULL,
        place text NOT NULL,
        height_m double precision NOT NULL,
        power_w double precision NOT NULL,
        gain_dbi double precision NOT NULL,
        note text NOT NULL,
        version integer NOT NULL DEFAULT 1
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE path_site');
  }
}
