import type { SoundSetup } from '@mistpeak/contract/sound';
import { Column, Entity, PrimaryGeneratedColumn, VersionColumn } from 'typeorm';

@Entity('link')
export class LinkEntity {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column('text')
  name!: string;

  @Column('text')
  kind!: string;

  @Column('text', { nullable: true })
  host!: string | null;

  @Column('integer', { nullable: true })
  port!: number | null;

  @Column('text', { nullable: true })
  device!: string | null;

  @Column('integer', { nullable: true })
  speed!: number | null;

  /** Of a sound card: devices, keying, levels. */
  @Column('jsonb', { nullable: true })
  sound!: SoundSetup | null;

  @Column('integer', { name: 'air_rate' })
  airRate!: number;

  @Column('integer', { name: 'tx_delay_ms' })
  txDelayMs!: number;

  @Column('double precision')
  persistence!: number;

  @Column('integer', { name: 'slot_time_ms' })
  slotTimeMs!: number;

  @Column('integer', { name: 'tx_tail_ms' })
  txTailMs!: number;

  /** The own station that this link transmits as; chosen when there are several. */
  @Column('uuid', { name: 'station_id', nullable: true })
  stationId!: string | null;

  /** The operator opened it and has not closed it: it is opened again after a restart. */
  @Column('boolean', { name: 'wanted_open', default: false })
  wantedOpen!: boolean;

  @VersionColumn()
  version!: number;
}
