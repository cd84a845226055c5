import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the operator sees of each browser that was let in. */
export class Devices1700000015000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE login
        ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid() UNIQUE,
        ADD COLUMN entrance text NOT NULL DEFAULT 'password' CHECK (entrance IN ('password', 'code', 'this machine')),
        ADD COLUMN name text NOT NULL DEFAULT '',
        ADD COLUMN address text NOT NULL DEFAULT '',
        ADD COLUMN let_in_at timestamptz(3) NOT NULL DEFAULT now()`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const column of ['id', 'entrance', 'name', 'address', 'let_in_at'])
      await runner.query(`ALTER TABLE login DROP COLUMN ${column}`);
  }
}
