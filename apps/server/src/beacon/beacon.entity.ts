import { Column, Entity, PrimaryColumn, UpdateDateColumn, VersionColumn } from 'typeorm';

/** The fixed beacon of one own station. */
@Entity('beacon')
export class BeaconEntity {
  @PrimaryColumn('uuid', { name: 'station_id' })
  stationId!: string;

  @Column('text')
  source!: string;

  @Column('double precision', { name: 'latitude_deg' })
  latitudeDeg!: number;

  @Column('double precision', { name: 'longitude_deg' })
  longitudeDeg!: number;

  @Column('text', { name: 'symbol_table' })
  symbolTable!: string;

  @Column('text', { name: 'symbol_code' })
  symbolCode!: string;

  @Column('text')
  comment!: string;

  @Column('text')
  path!: string;

  @Column('boolean')
  compressed!: boolean;

  @UpdateDateColumn({ type: 'timestamptz', name: 'saved_at' })
  savedAt!: Date;

  @VersionColumn()
  version!: number;
}
