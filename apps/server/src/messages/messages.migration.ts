import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What we send until it is answered, what is heard, what of it was read, and how the book works. */
export class Messages1700000032000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const table of ['message_outgoing', 'message_received'])
      await runner.query(`
        CREATE TABLE ${table} (
          id uuid PRIMARY KEY,
          at timestamptz(3) NOT NULL,
          entry jsonb NOT NULL
        )`);
    await runner.query('CREATE INDEX message_outgoing_at ON message_outgoing (at)');
    await runner.query('CREATE INDEX message_received_at ON message_received (at)');
    await runner.query(`
      CREATE TABLE message_book (
        id integer PRIMARY KEY CHECK (id = 1),
        numbered integer NOT NULL DEFAULT 0,
        settings jsonb,
        version integer NOT NULL DEFAULT 0
      )`);
    await runner.query('INSERT INTO message_book (id) VALUES (1)');
    await runner.query(`
      CREATE TABLE message_read (
        conversation text PRIMARY KEY,
        at timestamptz(3) NOT NULL
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['message_read', 'message_book', 'message_received', 'message_outgoing'])
      await runner.query(`DROP TABLE ${table}`);
  }
}
