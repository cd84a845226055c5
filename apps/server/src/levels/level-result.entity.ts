import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('level_result')
export class LevelResultEntity {
  @PrimaryColumn('uuid')
  id!: string;

  @Column('uuid', { name: 'link_id', nullable: true })
  linkId!: string | null;

  @Column('timestamptz')
  at!: Date;

  @Column('text', { name: 'check_kind' })
  check!: string;

  @Column('text')
  words!: string;

  @Column('text')
  number!: string;

  @Column('text')
  turn!: string;

  @Column('boolean', { name: 'is_in_window', nullable: true })
  isInWindow!: boolean | null;

  @Column('double precision', { name: 'level_dbfs', nullable: true })
  levelDbfs!: number | null;
}
