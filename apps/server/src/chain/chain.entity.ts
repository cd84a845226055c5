import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn, VersionColumn } from 'typeorm';
import type { TriedItem } from '@mistpeak/core/chain/record';
import type { Item } from '@mistpeak/core/kit/item';

/** A chain that the operator saved: its parts as they were then, and what it is for. */
@Entity('saved_chain')
export class ChainEntity {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column('text')
  name!: string;

  @Column('uuid', { name: 'link_id', nullable: true })
  linkId!: string | null;

  @Column('text')
  purpose!: string;

  @Column('jsonb')
  parts!: Item[];

  @Column('text', { name: 'radio_port', nullable: true })
  radioPort!: string | null;

  @Column('text')
  antenna!: string;

  @Column('boolean', { name: 'is_moving' })
  isMoving!: boolean;

  @Column('jsonb')
  schools!: Record<string, string>;

  @Column('boolean', { name: 'on_bench' })
  onBench!: boolean;

  @Column('timestamptz', { name: 'saved_at' })
  savedAt!: Date;

  @VersionColumn()
  version!: number;
}

/** Append-only: a step of a sheet was done, or taken back. */
@Entity('sheet_tick')
export class SheetTickEntity {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column('uuid', { name: 'chain_id' })
  chainId!: string;

  @Column('text', { name: 'step_id' })
  stepId!: string;

  @Column('boolean', { name: 'is_done' })
  isDone!: boolean;

  @Column('timestamptz')
  at!: Date;

  @Column('text')
  measured!: string;

  @Column('text')
  note!: string;
}

/** The combination record: what was tried with what, and what came of it. */
@Entity('trial')
export class TrialEntity {
  @PrimaryColumn('uuid')
  id!: string;

  @Column('timestamptz')
  at!: Date;

  @Column('text')
  purpose!: string;

  @Column('jsonb')
  items!: TriedItem[];

  @Column('text')
  antenna!: string;

  @Column('text')
  result!: string;

  @Column('text')
  trick!: string;

  @Column('double precision', { name: 'level_dbfs', nullable: true })
  levelDbfs!: number | null;

  @Column('jsonb')
  settings!: Record<string, string>;

  @Column('text')
  note!: string;
}
