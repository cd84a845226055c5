import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

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

  @Column('double precision', { name: 'latitude_deg' })
  latitudeDeg!: number;

  @Column('double precision', { name: 'longitude_deg' })
  longitudeDeg!: number;
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
}
