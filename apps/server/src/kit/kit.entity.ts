import { Column, Entity, PrimaryColumn, VersionColumn } from 'typeorm';
import type { Item } from '@mistpeak/core/kit/item';

/** One thing that the operator owns, described by what it can do. */
@Entity('kit_item')
export class KitItemEntity {
  @PrimaryColumn('text')
  id!: string;

  @Column('integer')
  place!: number;

  @Column('jsonb')
  item!: Item;

  @VersionColumn()
  version!: number;
}
