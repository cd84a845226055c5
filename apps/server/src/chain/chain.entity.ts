import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The chain of one link: what stands on either side of it, and what it is for. */
@Entity('chain')
export class ChainEntity {
  @PrimaryColumn('uuid', { name: 'link_id' })
  linkId!: string;

  @Column('text')
  purpose!: string;

  @Column('text')
  radio!: string;

  @Column('text')
  cable!: string;

  @Column('text')
  host!: string;

  @Column('boolean', { name: 'is_moving' })
  isMoving!: boolean;
}
