import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { EchoView, GateView, TransmissionView } from '@mistpeak/contract/beacon';

@Entity('transmit_lock')
export class TransmitLockEntity {
  @PrimaryColumn('uuid', { name: 'link_id' })
  linkId!: string;

  @Column('text')
  call!: string;

  @Column('timestamptz', { name: 'armed_at' })
  armedAt!: Date;

  @Column('timestamptz', { name: 'expires_at' })
  expiresAt!: Date;
}

@Entity('transmission')
export class TransmissionEntity {
  @PrimaryColumn('uuid')
  id!: string;

  @Column('uuid', { name: 'link_id' })
  linkId!: string;

  @Column('text')
  source!: string;

  @Column('text')
  purpose!: string;

  @Column('bytea')
  raw!: Buffer;

  @Column('double precision', { name: 'air_time_ms' })
  airTimeMs!: number;

  @Column('timestamptz', { name: 'queued_at' })
  queuedAt!: Date;

  @Column('timestamptz', { name: 'handed_at', nullable: true })
  handedAt!: Date | null;

  @Column('text')
  state!: TransmissionView['state'];

  @Column('jsonb')
  echoes!: EchoView[];

  @Column('jsonb')
  gates!: GateView[];
}
