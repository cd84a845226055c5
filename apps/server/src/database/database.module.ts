import { Global, Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import type { MixedList } from 'typeorm';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { DeferredWrites } from './deferred-writes.js';
import { DatabaseSession } from './session.js';

type Class = new (...given: never[]) => object;

/** PostgreSQL for the whole server. It knows no subject: entities and migrations are handed to it. */
@Global()
@Module({})
export class DatabaseModule {
  static with(entities: Class[], migrations: Class[]): DynamicModule {
    return {
      module: DatabaseModule,
      imports: [
        TypeOrmModule.forRootAsync({
          inject: [CONFIGURATION],
          useFactory: ({ databaseUrl }: Configuration) => ({
            type: 'postgres',
            url: databaseUrl,
            entities,
            migrations: migrations as MixedList<never>,
            migrationsRun: true,
            migrationsTransactionMode: 'each',
            synchronize: false,
            connectTimeoutMS: 5000,
            // A connection that the server dropped is replaced at the next query; the watch tells the operator.
            poolErrorHandler: () => undefined,
            retryAttempts: 5,
            retryDelay: 1000,
          }),
        }),
      ],
      providers: [DatabaseSession, DeferredWrites],
      exports: [DatabaseSession, DeferredWrites, TypeOrmModule],
    };
  }
}
