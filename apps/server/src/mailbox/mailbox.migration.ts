import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The own mailbox: its rules, its letters, and what was half-received. Texts as octets, since anything may come. */
export class Mailbox1700000037000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE mailbox (
        id integer PRIMARY KEY CHECK (id = 1),
        settings jsonb,
        version integer NOT NULL DEFAULT 0,
        numbered integer NOT NULL DEFAULT 0
      )`);
    await runner.query('INSERT INTO mailbox (id) VALUES (1)');
    await runner.query(`
      CREATE TABLE mailbox_letter (
        id uuid PRIMARY KEY,
        number integer,
        sender text NOT NULL,
        addressee text NOT NULL,
        subject bytea NOT NULL,
        text bytea NOT NULL,
        at timestamptz(3) NOT NULL,
        is_read boolean NOT NULL DEFAULT false,
        killed_at timestamptz(3)
      )`);
    await runner.query('CREATE UNIQUE INDEX mailbox_letter_number ON mailbox_letter (number)');
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['mailbox_letter', 'mailbox']) await runner.query(`DROP TABLE ${table}`);
  }
}
