import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which way an entry came, what was measured of it, how its connection counts, and room for a line that is no AX.25 frame. */
export class Origins1700000017000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE frames
        ADD COLUMN origin text NOT NULL DEFAULT 'kiss' CHECK (origin IN ('kiss', 'sound', 'internet', 'capture', 'own')),
        ADD COLUMN measures jsonb,
        ADD COLUMN line text,
        ADD COLUMN modulo smallint NOT NULL DEFAULT 8 CHECK (modulo IN (8, 128))`);
    await runner.query("UPDATE frames SET origin = 'own' WHERE direction = 'sent'");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE frames DROP COLUMN origin, DROP COLUMN measures, DROP COLUMN line, DROP COLUMN modulo',
    );
  }
}
