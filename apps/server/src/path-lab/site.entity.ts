import { Column, Entity, PrimaryColumn, VersionColumn } from 'typeorm';
import type { SiteRole } from '@mistpeak/contract/path-lab';

@Entity('path_site')
export class SiteEntity {
  @PrimaryColumn('text')
  call!: string;

  @Column('text')
  role!: SiteRole;

  @Column('text')
  place!: string;

  @Column('double precision', { name: 'height_m' })
  heightM!: number;

  @Column('double precision', { name: 'power_w' })
  powerW!: number;

  @Column('double precision', { name: 'gain_dbi' })
  gainDbi!: number;

  @Column('text')
  note!: string;

  @VersionColumn()
  version!: number;
}
