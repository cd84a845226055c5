import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Beacon1700000006000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE beacon (
        station_id uuid PRIMARY KEY REFERENCES own_station (id) ON DELETE CASCADE,
        source text NOT NULL,
        latitude_deg double precision NOT NULL,
        longitude_deg double precision NOT NULL,
        symbol_table text NOT NULL,
        symbol_code text NOT NULL,
        comment text NOT NULL,
        path text NOT NULL,
        compressed boolean NOT NULL,
        saved_at timestamptz(3) NOT NULL DEFAULT now()
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE beacon');
  }
}
