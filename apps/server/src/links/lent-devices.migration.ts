import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Links whose device is at a browser. */
export class LentDevices1700000014000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE link DROP CONSTRAINT link_kind_check,
        ADD CONSTRAINT link_kind_check CHECK (kind IN ('network', 'serial', 'page-serial', 'page-bluetooth'))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DELETE FROM link WHERE kind LIKE 'page-%'`);
    await runner.query(`
      ALTER TABLE link DROP CONSTRAINT link_kind_check,
        ADD CONSTRAINT link_kind_check CHECK (kind IN ('network', 'serial'))`);
  }
}
