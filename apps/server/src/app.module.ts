import { Module, type DynamicModule } from '@nestjs/common';
import { APP_INTERCEPTOR } from '@nestjs/core';
import { ServeStaticModule } from '@nestjs/serve-static';
import { Access1700000010000 } from './access/access.migration.js';
import { Devices1700000015000 } from './access/devices.migration.js';
import { AccessModule } from './access/access.module.js';
import { LoginEntity, RolePasswordEntity } from './access/login.entity.js';
import { BackupModule } from './backup/backup.module.js';
import { BeaconWayEntity } from './beacon/beacon-way.entity.js';
import { BeaconWays1700000031000 } from './beacon/beacon-ways.migration.js';
import { BeaconEntity } from './beacon/beacon.entity.js';
import { Beacon1700000006000 } from './beacon/beacon.migration.js';
import { BeaconModule } from './beacon/beacon.module.js';
import { ChainEntity, SheetTickEntity, TrialEntity } from './chain/chain.entity.js';
import { Chain1700000007000 } from './chain/chain.migration.js';
import { ChainModule } from './chain/chain.module.js';
import { SavedChains1700000012000 } from './chain/saved-chains.migration.js';
import type { Configuration } from './configuration.js';
import { ConfigurationModule } from './configuration.module.js';
import { DatabaseModule } from './database/database.module.js';
import { Elevation1700000028000 } from './elevation/elevation.migration.js';
import { ElevationModule } from './elevation/elevation.module.js';
import { Gating1700000034000 } from './gating/gating.migration.js';
import { GatingModule } from './gating/gating.module.js';
import { HealthModule } from './health/health.module.js';
import { FramesBySource1700000008000 } from './record/frames-by-source.migration.js';
import { Hearing1700000004000 } from './record/frames.migration.js';
import { Field1700000043000 } from './field/field.migration.js';
import { FieldModule } from './field/field.module.js';
import { Gateways1700000044000 } from './gateways/gateways.migration.js';
import { GatewaysModule } from './gateways/gateways.module.js';
import { Drills1700000047000 } from './drills/drills.migration.js';
import { Practice1700000049000 } from './drills/practice.migration.js';
import { DrillsModule } from './drills/drills.module.js';
import { Departure1700000046000 } from './departure/departure.migration.js';
import { DepartureModule } from './departure/departure.module.js';
import { Logbook1700000045000 } from './logbook/logbook.migration.js';
import { LogbookModule } from './logbook/logbook.module.js';
import { Keeping1700000042000 } from './record/keeping.migration.js';
import { SummedScraps1700000016000 } from './record/summed-scraps.migration.js';
import { Origins1700000017000 } from './record/origins.migration.js';
import { RecordModule } from './record/record.module.js';
import { Internet1700000033000 } from './internet/internet.migration.js';
import { InternetModule } from './internet/internet.module.js';
import { KitItemEntity } from './kit/kit.entity.js';
import { Kit1700000011000 } from './kit/kit.migration.js';
import { KitModule } from './kit/kit.module.js';
import { LevelResultEntity } from './levels/level-result.entity.js';
import { Levels1700000027000 } from './levels/levels.migration.js';
import { LevelsModule } from './levels/levels.module.js';
import { LinkEntity } from './links/link.entity.js';
import { Links1700000002000 } from './links/links.migration.js';
import { LanModule } from './lan/lan.module.js';
import { LentDevices1700000014000 } from './links/lent-devices.migration.js';
import { LinksModule } from './links/links.module.js';
import { LiveModule } from './live/live.module.js';
import { Messages1700000032000 } from './messages/messages.migration.js';
import { MessagesModule } from './messages/messages.module.js';
import { MapsModule } from './maps/maps.module.js';
import { NoMapController } from './no-map.controller.js';
import { OperatorEntity, OwnStationEntity } from './operator/operator.entity.js';
import { Operator1700000001000 } from './operator/operator.migration.js';
import { OpenPlace1700000019000 } from './operator/open-place.migration.js';
import { OperatorModule } from './operator/operator.module.js';
import { OwnObjects1700000041000 } from './own-objects/own-objects.migration.js';
import { OwnObjectsModule } from './own-objects/own-objects.module.js';
import { PathLabModule } from './path-lab/path-lab.module.js';
import { SiteEntity } from './path-lab/site.entity.js';
import { Sites1700000029000 } from './path-lab/sites.migration.js';
import { EvidenceEntity } from './proof/evidence.entity.js';
import { Proof1700000002500 } from './proof/proof.migration.js';
import { ProgramsModule } from './programs/programs.module.js';
import { ProofModule } from './proof/proof.module.js';
import { RemovalsModule } from './removals/removals.module.js';
import { Sessions1700000035000 } from './sessions/sessions.migration.js';
import { Terminal1700000036000 } from './terminal/terminal.migration.js';
import { TerminalModule } from './terminal/terminal.module.js';
import { Mailbox1700000037000 } from './mailbox/mailbox.migration.js';
import { MailModule } from './mail/mail.module.js';
import { Mail1700000038000 } from './mail/mail.migration.js';
import { MailboxModule } from './mailbox/mailbox.module.js';
import { SessionsModule } from './sessions/sessions.module.js';
import { Positions1700000009000 } from './stations/positions.migration.js';
import { Stations1700000005000 } from './stations/stations.migration.js';
import { SharingEntity } from './sharing/sharing.entity.js';
import { Sharing1700000013000 } from './sharing/sharing.migration.js';
import { SharingModule } from './sharing/sharing.module.js';
import { StationsModule } from './stations/stations.module.js';
import { TrafficModule } from './traffic/traffic.module.js';
import { TransmissionEntity, TransmitLockEntity } from './transmitting/transmitting.entity.js';
import { SoundLinks1700000026000 } from './links/sound-links.migration.js';
import { Whereabouts1700000030000 } from './whereabouts/whereabouts.migration.js';
import { ListeningModule } from './listening/listening.module.js';
import { Search1700000040000 } from './search/search.migration.js';
import { SearchModule } from './search/search.module.js';
import { Watch1700000039000 } from './watch/watch.migration.js';
import { WatchModule } from './watch/watch.module.js';
import { WhereaboutsModule } from './whereabouts/whereabouts.module.js';
import { Versions1700000018000 } from './database/versions.migration.js';
import { OnceInterceptor } from './commands/once.interceptor.js';
import { TrueTime1700000048000 } from './true-time/true-time.migration.js';
import { TrueTimeModule } from './true-time/true-time.module.js';
import { Transmitting1700000003000 } from './transmitting/transmitting.migration.js';
import { TransmittingModule } from './transmitting/transmitting.module.js';

const ENTITIES = [
  OperatorEntity,
  OwnStationEntity,
  LinkEntity,
  TransmitLockEntity,
  TransmissionEntity,
  EvidenceEntity,
  BeaconEntity,
  KitItemEntity,
  ChainEntity,
  SheetTickEntity,
  TrialEntity,
  RolePasswordEntity,
  LoginEntity,
  SharingEntity,
  LevelResultEntity,
  SiteEntity,
  BeaconWayEntity,
];
export const MIGRATIONS = [
  Operator1700000001000,
  Links1700000002000,
  Proof1700000002500,
  Transmitting1700000003000,
  Hearing1700000004000,
  Stations1700000005000,
  Beacon1700000006000,
  Chain1700000007000,
  FramesBySource1700000008000,
  Positions1700000009000,
  Access1700000010000,
  Kit1700000011000,
  SavedChains1700000012000,
  Sharing1700000013000,
  LentDevices1700000014000,
  Devices1700000015000,
  SummedScraps1700000016000,
  Origins1700000017000,
  Versions1700000018000,
  OpenPlace1700000019000,
  SoundLinks1700000026000,
  Levels1700000027000,
  Elevation1700000028000,
  Sites1700000029000,
  Whereabouts1700000030000,
  BeaconWays1700000031000,
  Messages1700000032000,
  Internet1700000033000,
  Gating1700000034000,
  Sessions1700000035000,
  Terminal1700000036000,
  Mailbox1700000037000,
  Mail1700000038000,
  Watch1700000039000,
  Search1700000040000,
  OwnObjects1700000041000,
  Keeping1700000042000,
  Field1700000043000,
  Gateways1700000044000,
  Logbook1700000045000,
  Departure1700000046000,
  Drills1700000047000,
  TrueTime1700000048000,
  Practice1700000049000,
];

@Module({})
export class AppModule {
  static with(configuration: Configuration): DynamicModule {
    const { webFolder, mapFolder, mapsFolder } = configuration;
    const page = webFolder
      ? [
          ServeStaticModule.forRoot({
            rootPath: webFolder,
            exclude: ['/api/{*rest}', '/map/{*rest}', '/enter'],
            serveStaticOptions: { index: 'index.html' },
          }),
        ]
      : [];
    // The map of the place, written by whoever started us; without one the page draws the coasts of the world alone.
    const map = mapFolder
      ? [
          ServeStaticModule.forRoot({
            rootPath: mapFolder,
            serveRoot: '/map',
            serveStaticOptions: { index: false, fallthrough: false },
          }),
        ]
      : [];
    // By range: a page reads the part of gigabytes that it shows.
    const tiles = mapsFolder
      ? [
          ServeStaticModule.forRoot({
            rootPath: mapsFolder,
            serveRoot: '/map/tiles',
            serveStaticOptions: { index: false, fallthrough: false },
          }),
        ]
      : [];
    return {
      module: AppModule,
      controllers: mapFolder ? [] : [NoMapController],
      imports: [
        ConfigurationModule.with(configuration),
        DatabaseModule.with(ENTITIES),
        LanModule,
        AccessModule,
        LiveModule,
        RemovalsModule,
        SessionsModule,
        MailboxModule,
        MailModule,
        TerminalModule,
        TrafficModule,
        OperatorModule,
        ProofModule,
        LevelsModule,
        ProgramsModule,
        LinksModule,
        KitModule,
        ChainModule,
        TransmittingModule,
        SharingModule,
        StationsModule,
        RecordModule,
        BeaconModule,
        InternetModule,
        MessagesModule,
        GatingModule,
        ElevationModule,
        PathLabModule,
        TrueTimeModule,
        WhereaboutsModule,
        WatchModule,
        SearchModule,
        ListeningModule,
        HealthModule,
        MapsModule,
        OwnObjectsModule,
        FieldModule,
        GatewaysModule,
        LogbookModule,
        BackupModule,
        DepartureModule,
        DrillsModule,
        ...tiles,
        ...map,
        ...page,
      ],
      providers: [{ provide: APP_INTERCEPTOR, useClass: OnceInterceptor }],
    };
  }
}
