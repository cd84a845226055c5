import { Global, Module, type DynamicModule } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { DeferredWrites } from './deferred-writes.js';
import { DatabaseSession } from './session.js';
import { Spool } from './spool.js';
import { WithoutDatabaseGuard } from './without-database.guard.js';

/** The longest query of ours takes a second or two on a slow machine. */
const QUERY_LIMIT_MS = 10_000;

type Class = new (...given: never[]) => object;

/** What waited since the last stop is written before anybody reads. */
const DEFERRED = {
  provide: DeferredWrites,
  inject: [DataSource, DatabaseSession, Spool],
  useFactory: async (dataSource: DataSource, session: DatabaseSession, spool: Spool) => {
    const writes = new DeferredWrites(dataSource, session, spool);
    await writes.begin();
    return writes;
  },
};

/** PostgreSQL for the whole server. It knows no subject: entities are handed to it. The tables are brought to their form before (migrate.ts). */
@Global()
@Module({})
export class DatabaseModule {
  static with(entities: Class[]): DynamicModule {
    return {
      module: DatabaseModule,
      imports: [
        TypeOrmModule.forRootAsync({
          inject: [CONFIGURATION],
          useFactory: ({ databaseUrl }: Configuration) => ({
            type: 'postgres',
            url: databaseUrl,
            entities,
            synchronize: false,
            connectTimeoutMS: 5000,
            // A database that hangs must not hold a command for ever. Migrations run apart, without a limit.
            // Connections are kept: after a rest an operator's command would wait for a new one.
            extra: { query_timeout: QUERY_LIMIT_MS, idleTimeoutMillis: 0 },
            // A connection that the server dropped is replaced at the next query; the watch tells the operator.
            poolErrorHandler: () => undefined,
            retryAttempts: 5,
            retryDelay: 1000,
          }),
        }),
      ],
      providers: [DatabaseSession, Spool, DEFERRED, { provide: APP_GUARD, useClass: WithoutDatabaseGuard }],
      exports: [DatabaseSession, DeferredWrites, Spool, TypeOrmModule],
    };
  }
}
