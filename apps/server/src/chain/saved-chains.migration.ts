import type { MigrationInterface, QueryRunner } from 'typeorm';
import { unnamedChain } from '@mistpeak/contract/chain';

interface OldChain {
  readonly linkId: string;
  readonly linkName: string;
  readonly purpose: string;
  readonly radio: string;
  readonly cable: string;
  readonly host: string;
  readonly isMoving: boolean;
}

/** Chains of parts instead of three names beside a link; what was named is kept. */
export class SavedChains1700000012000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE saved_chain (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        link_id uuid REFERENCES link (id) ON DELETE SET NULL,
        purpose text NOT NULL,
        parts jsonb NOT NULL,
        radio_port text,
        antenna text NOT NULL,
        is_moving boolean NOT NULL,
        schools jsonb NOT NULL,
        on_bench boolean NOT NULL,
        saved_at timestamptz(3) NOT NULL
      )`);
    await runner.query('CREATE UNIQUE INDEX one_chain_on_the_bench ON saved_chain (on_bench) WHERE on_bench');
    await runner.query(`
      CREATE TABLE sheet_tick (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        chain_id uuid NOT NULL,
        step_id text NOT NULL,
        is_done boolean NOT NULL,
        at timestamptz(3) NOT NULL,
        measured text NOT NULL,
        note text NOT NULL
      )`);
    await runner.query('CREATE INDEX sheet_tick_step ON sheet_tick (chain_id, step_id, at)');
    await runner.query(`
      CREATE TABLE trial (
        id uuid PRIMARY KEY,
        at timestamptz(3) NOT NULL,
        purpose text NOT NULL,
        items jsonb NOT NULL,
        antenna text NOT NULL,
        result text NOT NULL,
        trick text NOT NULL,
        level_dbfs double precision,
        settings jsonb NOT NULL,
        note text NOT NULL
      )`);
    // Evidence of a chain that ends in another app belongs to no link.
    await runner.query('ALTER TABLE evidence ALTER COLUMN link_id DROP NOT NULL');
    await this.keepNamed(runner);
    await runner.query('DROP TABLE chain');
  }

  private async keepNamed(runner: QueryRunner): Promise<void> {
    const old = (await runner.query(`
      SELECT link_id AS "linkId", link.name AS "linkName", purpose, radio, cable, chain.host, is_moving AS "isMoving"
      FROM chain JOIN link ON link.id = link_id ORDER BY link_id`)) as OldChain[];
    for (const [i, chain] of old.entries()) {
      const names = [chain.radio, chain.cable, chain.linkName, chain.host];
      const parts = unnamedChain(chain.linkId, chain.linkName).parts.map((part, place) => ({
        ...part,
        name: names[place] ?? part.name,
      }));
      await runner.query(
        `INSERT INTO saved_chain (link_id, purpose, parts, antenna, is_moving, schools, on_bench, saved_at)
         VALUES ($1, $2, $3, '', $4, '{}', $5, now())`,
        [chain.linkId, chain.purpose, JSON.stringify(parts), chain.isMoving, i === 0],
      );
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE saved_chain, sheet_tick, trial');
  }
}
