import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Reach } from '@mistpeak/contract/sharing';

@Entity('sharing')
export class SharingEntity {
  @PrimaryColumn('uuid', { name: 'link_id' })
  linkId!: string;

  @Column('boolean', { name: 'is_on' })
  isOn!: boolean;

  @Column('integer')
  port!: number;

  @Column('text')
  reach!: Reach;

  @Column('boolean', { name: 'is_announced' })
  isAnnounced!: boolean;

  @Column('boolean', { name: 'new_may_transmit' })
  newMayTransmit!: boolean;
}
