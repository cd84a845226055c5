import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a beacon says besides; and the ways on which beacons leave by a plan. */
export class BeaconWays1700000031000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE beacon
        ADD COLUMN format text NOT NULL DEFAULT 'plain',
        ADD COLUMN messaging boolean NOT NULL DEFAULT false,
        ADD COLUMN ambiguity_digits smallint NOT NULL DEFAULT 0,
        ADD COLUMN altitude_m double precision,
        ADD COLUMN phg_power_w double precision,
        ADD COLUMN phg_height_m double precision,
        ADD COLUMN phg_gain_db double precision,
        ADD COLUMN frequency text NOT NULL DEFAULT '',
        ADD COLUMN frequency_since timestamptz(3),
        ADD COLUMN frequency_latitude_deg double precision,
        ADD COLUMN frequency_longitude_deg double precision`);
    await runner.query("UPDATE beacon SET format = 'compressed' WHERE compressed");
    await runner.query('ALTER TABLE beacon DROP COLUMN compressed');
    await runner.query(`
      CREATE TABLE beacon_way (
        id uuid PRIMARY KEY,
        link_id uuid NOT NULL REFERENCES link (id) ON DELETE CASCADE,
        source text NOT NULL,
        plan jsonb NOT NULL,
        position text NOT NULL,
        least_gap_s integer NOT NULL,
        jitter_s integer NOT NULL,
        stop_after integer,
        busy_above_percent integer NOT NULL,
        is_on boolean NOT NULL,
        sent integer NOT NULL DEFAULT 0,
        last_sent_at timestamptz(3),
        version integer NOT NULL DEFAULT 1
      )`);
    await runner.query(
      "CREATE INDEX transmission_beacons ON transmission (queued_at) WHERE purpose = 'beacon'",
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX transmission_beacons');
    await runner.query('DROP TABLE beacon_way');
    await runner.query('ALTER TABLE beacon ADD COLUMN compressed boolean NOT NULL DEFAULT false');
    await runner.query("UPDATE beacon SET compressed = true WHERE format = 'compressed'");
    await runner.query(`
      ALTER TABLE beacon
        DROP COLUMN format, DROP COLUMN messaging, DROP COLUMN ambiguity_digits, DROP COLUMN altitude_m,
        DROP COLUMN phg_power_w, DROP COLUMN phg_height_m, DROP COLUMN phg_gain_db, DROP COLUMN frequency,
        DROP COLUMN frequency_since, DROP COLUMN frequency_latitude_deg, DROP COLUMN frequency_longitude_deg`);
  }
}
