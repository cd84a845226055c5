import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sound cards, for which Mistpeak is the modem: at a browser or at this machine. */
export class SoundLinks1700000026000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE link ADD COLUMN sound jsonb, DROP CONSTRAINT link_kind_check,
        ADD CONSTRAINT link_kind_check CHECK (kind IN
          ('network', 'serial', 'page-serial', 'page-bluetooth', 'page-sound', 'sound-card'))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DELETE FROM link WHERE kind IN ('page-sound', 'sound-card')`);
    await runner.query(`
      ALTER TABLE link DROP COLUMN sound, DROP CONSTRAINT link_kind_check,
        ADD CONSTRAINT link_kind_check CHECK (kind IN ('network', 'serial', 'page-serial', 'page-bluetooth'))`);
  }
}
