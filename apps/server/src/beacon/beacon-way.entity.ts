import type { BeaconPlan } from '@mistpeak/core/beacon/plan';
import type { BeaconWaySettings } from '@mistpeak/contract/beacon-ways';
import { Column, Entity, PrimaryColumn, VersionColumn } from 'typeorm';

@Entity('beacon_way')
export class BeaconWayEntity {
  @PrimaryColumn('uuid')
  id!: string;

  @Column('uuid', { name: 'link_id' })
  linkId!: string;

  @Column('text')
  source!: string;

  @Column('jsonb')
  plan!: BeaconPlan;

  @Column('text')
  position!: BeaconWaySettings['position'];

  @Column('integer', { name: 'least_gap_s' })
  leastGapS!: number;

  @Column('integer', { name: 'jitter_s' })
  jitterS!: number;

  @Column('integer', { name: 'stop_after', nullable: true })
  stopAfter!: number | null;

  @Column('integer', { name: 'busy_above_percent' })
  busyAbovePercent!: number;

  @Column('boolean', { name: 'is_on' })
  isOn!: boolean;

  @Column('integer')
  sent!: number;

  @Column('timestamptz', { name: 'last_sent_at', nullable: true })
  lastSentAt!: Date | null;

  @VersionColumn()
  version!: number;
}
