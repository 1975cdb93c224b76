import { Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { dataSourceOptions, databaseAddress, type Rows } from './data-source.ts';
import { DatabaseWatch } from './watch.service.ts';

/** Tries for about half a minute: PostgreSQL may still be starting. */
const RETRIES = 15;
const RETRY_DELAY_MS = 2000;

/** The connection to the database, for every room. */
@Module({})
export class DatabaseModule {
  /** `rows`: those of all rooms; the database itself knows none. */
  static with(rows: Rows): DynamicModule {
    return {
      global: true,
      module: DatabaseModule,
      imports: [
        TypeOrmModule.forRootAsync({
          useFactory: () => ({
            ...dataSourceOptions(databaseAddress(), rows),
            retryAttempts: RETRIES,
            retryDelay: RETRY_DELAY_MS,
          }),
        }),
      ],
      providers: [DatabaseWatch],
      exports: [DatabaseWatch],
    };
  }
}
