import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Links1700000002000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE link (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        name text NOT NULL,
        kind text NOT NULL CHECK (kind IN ('network', 'serial')),
        host text,
        port integer,
        device text,
        speed integer,
        air_rate integer NOT NULL,
        tx_delay_ms integer NOT NULL,
        persistence double precision NOT NULL,
        slot_time_ms integer NOT NULL,
        tx_tail_ms integer NOT NULL,
        station_id uuid REFERENCES own_station (id) ON DELETE SET NULL,
        wanted_open boolean NOT NULL DEFAULT false,
        made_at timestamptz(3) NOT NULL DEFAULT now()
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE link');
  }
}
