import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What one station sent, without reading the whole record: its call's six octets and the time. */
export class FramesBySource1700000008000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE INDEX frames_source ON frames (substring(raw FROM 8 FOR 6), heard_at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX frames_source');
  }
}
