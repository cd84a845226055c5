import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn, VersionColumn } from 'typeorm';

/** The one licence holder of this installation. */
@Entity('operator')
export class OperatorEntity {
  @PrimaryColumn('smallint')
  id!: number;

  @Column('text')
  call!: string;

  @Column('text')
  region!: string;

  @Column('text')
  units!: string;

  @Column('text')
  coordinates!: string;

  /** Of the APRS channel, where the region is none of ours. */
  @Column('double precision', { name: 'channel_mhz', nullable: true })
  channelMHz!: number | null;

  @Column('double precision', { name: 'latitude_deg', nullable: true })
  latitudeDeg!: number | null;

  @Column('double precision', { name: 'longitude_deg', nullable: true })
  longitudeDeg!: number | null;

  @VersionColumn()
  version!: number;
}

/** A station of the licence holder: one call, one SSID, one device. */
@Entity('own_station')
export class OwnStationEntity {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column('text')
  call!: string;

  @Column('smallint')
  ssid!: number;

  @Column('text', { default: '' })
  role!: string;

  @Column('text', { name: 'symbol_table', default: '/' })
  symbolTable!: string;

  @Column('text', { name: 'symbol_code', default: '-' })
  symbolCode!: string;

  @Column('text', { default: '' })
  device!: string;

  @VersionColumn()
  version!: number;
}
