import type { FormatChoice } from '@mistpeak/contract/beacon';
import { Column, Entity, PrimaryColumn, UpdateDateColumn, VersionColumn } from 'typeorm';

/** The beacon of one own station. */
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

  @Column('text')
  format!: FormatChoice;

  @Column('boolean')
  messaging!: boolean;

  @Column('smallint', { name: 'ambiguity_digits' })
  ambiguityDigits!: number;

  @Column('double precision', { name: 'altitude_m', nullable: true })
  altitudeM!: number | null;

  @Column('double precision', { name: 'phg_power_w', nullable: true })
  phgPowerW!: number | null;

  @Column('double precision', { name: 'phg_height_m', nullable: true })
  phgHeightM!: number | null;

  @Column('double precision', { name: 'phg_gain_db', nullable: true })
  phgGainDb!: number | null;

  @Column('text')
  frequency!: string;

  @Column('timestamptz', { name: 'frequency_since', nullable: true })
  frequencySince!: Date | null;

  @Column('double precision', { name: 'frequency_latitude_deg', nullable: true })
  frequencyLatitudeDeg!: number | null;

  @Column('double precision', { name: 'frequency_longitude_deg', nullable: true })
  frequencyLongitudeDeg!: number | null;

  @UpdateDateColumn({ type: 'timestamptz', name: 'saved_at' })
  savedAt!: Date;

  @VersionColumn()
  version!: number;
}
