import { Global, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { dataSourceOptions, databaseAddress } from './data-source.ts';
import { DatabaseWatch } from './watch.service.ts';

/** Tries for about half a minute: PostgreSQL may still be starting. */
const RETRIES = 15;
const RETRY_DELAY_MS = 2000;

@Global()
@Module({
  imports: [
    TypeOrmModule.forRootAsync({
      useFactory: () => ({
        ...dataSourceOptions(databaseAddress()),
        retryAttempts: RETRIES,
        retryDelay: RETRY_DELAY_MS,
      }),
    }),
  ],
  providers: [DatabaseWatch],
  exports: [DatabaseWatch],
})
export class DatabaseModule {}
