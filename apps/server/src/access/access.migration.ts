import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Access1700000010000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE role_password (
        role text PRIMARY KEY CHECK (role IN ('operator', 'watcher')),
        hash text NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE login (
        token_hash text PRIMARY KEY,
        role text NOT NULL CHECK (role IN ('operator', 'watcher')),
        expires_at timestamptz(3) NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE login');
    await runner.query('DROP TABLE role_password');
  }
}
