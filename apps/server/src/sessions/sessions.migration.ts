import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Connections, and every octet of them both ways, as it came. */
export class Sessions1700000035000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE session (
        id uuid PRIMARY KEY,
        link_id uuid NOT NULL,
        opened_at timestamptz(3) NOT NULL,
        touched_at timestamptz(3) NOT NULL,
        ended_at timestamptz(3),
        view jsonb NOT NULL
      )`);
    await runner.query('CREATE INDEX session_opened_at ON session (opened_at)');
    await runner.query('CREATE INDEX session_open ON session (link_id) WHERE ended_at IS NULL');
    await runner.query(`
      CREATE TABLE session_said (
        session_id uuid NOT NULL REFERENCES session ON DELETE CASCADE,
        seq integer NOT NULL,
        at timestamptz(3) NOT NULL,
        side text NOT NULL,
        mark text,
        octets bytea NOT NULL,
        PRIMARY KEY (session_id, seq)
      )`);
    await runner.query(`
      CREATE TABLE session_file (
        id uuid PRIMARY KEY,
        session_id uuid NOT NULL REFERENCES session ON DELETE CASCADE,
        at timestamptz(3) NOT NULL,
        name text NOT NULL,
        octets bytea NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['session_file', 'session_said', 'session'])
      await runner.query(`DROP TABLE ${table}`);
  }
}
