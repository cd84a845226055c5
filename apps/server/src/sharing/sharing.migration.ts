import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Sharing1700000013000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE sharing (
        link_id uuid PRIMARY KEY REFERENCES link (id) ON DELETE CASCADE,
        is_on boolean NOT NULL,
        port integer NOT NULL,
        reach text NOT NULL CHECK (reach IN ('loopback', 'network')),
        is_announced boolean NOT NULL,
        new_may_transmit boolean NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE sharing');
  }
}
