import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** Append-only: what lit a rung, with a copy of the octets that did. */
@Entity('evidence')
export class EvidenceEntity {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column('uuid', { name: 'chain_id', nullable: true })
  chainId!: string | null;

  @Column('uuid', { name: 'link_id', nullable: true })
  linkId!: string | null;

  @Column('text')
  rung!: string;

  @Column('timestamptz')
  at!: Date;

  @Column('text')
  kind!: string;

  @Column('bytea', { nullable: true })
  raw!: Buffer | null;

  @Column('jsonb', { default: {} })
  figures!: Record<string, unknown>;

  @Column('text')
  words!: string;
}
