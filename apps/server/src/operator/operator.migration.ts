import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Operator1700000001000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE operator (
        id smallint PRIMARY KEY CHECK (id = 1),
        call text NOT NULL,
        region text NOT NULL,
        units text NOT NULL,
        coordinates text NOT NULL,
        latitude_deg double precision NOT NULL,
        longitude_deg double precision NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE own_station (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        call text NOT NULL,
        ssid smallint NOT NULL CHECK (ssid BETWEEN 0 AND 15),
        role text NOT NULL DEFAULT '',
        symbol_table text NOT NULL DEFAULT '/',
        symbol_code text NOT NULL DEFAULT '-',
        device text NOT NULL DEFAULT ''
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE own_station');
    await runner.query('DROP TABLE operator');
  }
}
