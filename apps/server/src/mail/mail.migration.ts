import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Radio mail: messages as they travel, what came in part, the account, sessions with their lines, self-tests. */
export class Mail1700000038000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE mail (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb,
        version integer NOT NULL DEFAULT 0,
        account jsonb
      )`);
    await runner.query('INSERT INTO mail (id) VALUES (1)');
    await runner.query(`
      CREATE TABLE mail_message (
        id uuid PRIMARY KEY,
        mid text NOT NULL,
        is_ours boolean NOT NULL,
        box text NOT NULL,
        folder text,
        octets bytea NOT NULL,
        row jsonb NOT NULL,
        at timestamptz(3) NOT NULL,
        is_read boolean NOT NULL,
        answered_at timestamptz(3),
        words tsvector NOT NULL,
        version integer NOT NULL DEFAULT 1
      )`);
    // What was received stands once, whoever sends it how often.
    await runner.query('CREATE UNIQUE INDEX mail_message_mid ON mail_message (mid, is_ours)');
    await runner.query('CREATE INDEX mail_message_box ON mail_message (box, at DESC)');
    await runner.query('CREATE INDEX mail_message_words ON mail_message USING gin (words)');
    await runner.query(
      'CREATE TABLE mail_part (mid text PRIMARY KEY, packed bytea NOT NULL, at timestamptz(3) NOT NULL)',
    );
    await runner.query(`
      CREATE TABLE mail_run (
        id uuid PRIMARY KEY,
        started_at timestamptz(3) NOT NULL,
        ended_at timestamptz(3),
        view jsonb NOT NULL,
        lines jsonb NOT NULL
      )`);
    await runner.query('CREATE INDEX mail_run_started ON mail_run (started_at DESC)');
    await runner.query(`
      CREATE TABLE mail_self_test (
        number serial PRIMARY KEY,
        tag text NOT NULL,
        mid text NOT NULL,
        chain text NOT NULL,
        at timestamptz(3) NOT NULL,
        sent_at timestamptz(3),
        answered_at timestamptz(3)
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['mail_self_test', 'mail_run', 'mail_part', 'mail_message', 'mail'])
      await runner.query(`DROP TABLE ${table}`);
  }
}
