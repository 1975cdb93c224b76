import pg from 'pg';
import { DataSource, type DataSourceOptions } from 'typeorm';
import { Finishing1700000000004 } from './migrations/4-finishing.ts';
import { WeighBacks1700000000005 } from './migrations/5-weigh-backs.ts';
import { OneWord1700000000006 } from './migrations/6-one-word.ts';
import { Stock1700000000007 } from './migrations/7-stock.ts';
import { Floor1700000000008 } from './migrations/8-floor.ts';
import { Changes1700000000009 } from './migrations/9-changes.ts';
import { Stays1700000000010 } from './migrations/10-stays.ts';
import { BoardStatus1700000000011 } from './migrations/11-board-status.ts';
import { CallAnswers1700000000012 } from './migrations/12-call-answers.ts';
import { Units1700000000013 } from './migrations/13-units.ts';
import { Assembly1700000000014 } from './migrations/14-assembly.ts';
import { Orders1700000000015 } from './migrations/15-orders.ts';
import { Kits1700000000016 } from './migrations/16-kits.ts';
import { BlanksOfBatches1700000000017 } from './migrations/17-blanks-of-batches.ts';
import { CalendarFeeds1700000000018 } from './migrations/18-calendar-feeds.ts';
import { People1700000000019 } from './migrations/19-people.ts';
import { WantedLeadTime1700000000020 } from './migrations/20-wanted-lead-time.ts';
import { BesideStates1700000000021 } from './migrations/21-beside-states.ts';
import { House1700000000001 } from './migrations/1-house.ts';
import { MillAndFitting1700000000003 } from './migrations/3-mill-and-fitting.ts';
import { WoodRoom1700000000002 } from './migrations/2-wood-room.ts';
import { PatientPool } from './patient-pool.ts';
import { HeldClient, STATEMENT_LIMIT_MS, WatchedClient } from './watched-client.ts';

/** Connections one server keeps; several servers share one database. */
export const POOL_SIZE = 10;
/** Longer than this nobody waits for a row somebody else holds. */
const LOCK_LIMIT_MS = 5000;

/** The address is always explicit: without it the driver would silently try port 5432. */
export function databaseAddress(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: say which PostgreSQL to use, or run ./start');
  return url;
}

/** How the floor's own connections are limited. */
const LIMITED = {
  application_name: 'ample-crane',
  statement_timeout: STATEMENT_LIMIT_MS,
  lock_timeout: LOCK_LIMIT_MS,
  idle_in_transaction_session_timeout: STATEMENT_LIMIT_MS,
  keepAlive: true,
  Client: WatchedClient,
};

/** The classes of rows that a connection reads and writes. */
export type Rows = readonly (new () => object)[];

/** `connection`: what the driver is told besides, about each connection. */
export function dataSourceOptions(
  url: string,
  rows: Rows = [],
  connection: object = LIMITED,
): DataSourceOptions {
  return {
    type: 'postgres',
    driver: { ...pg, Pool: PatientPool },
    url,
    entities: [...rows],
    migrations: [
      House1700000000001,
      WoodRoom1700000000002,
      MillAndFitting1700000000003,
      Finishing1700000000004,
      WeighBacks1700000000005,
      OneWord1700000000006,
      Stock1700000000007,
      Floor1700000000008,
      Changes1700000000009,
      Stays1700000000010,
      BoardStatus1700000000011,
      CallAnswers1700000000012,
      Units1700000000013,
      Assembly1700000000014,
      Orders1700000000015,
      Kits1700000000016,
      BlanksOfBatches1700000000017,
      CalendarFeeds1700000000018,
      People1700000000019,
      WantedLeadTime1700000000020,
      BesideStates1700000000021,
    ],
    migrationsTableName: 'migration',
    poolSize: POOL_SIZE,
    logging: false,
    extra: connection,
  };
}

/** Any fixed number that no other program uses on this database. */
const MIGRATION_LOCK = 20261123;

/** Brings the database to this version; two servers that start at once take turns. Rebuilding a table takes what it takes. */
export async function migrate(url: string): Promise<string[]> {
  const source = new DataSource(
    dataSourceOptions(url, [], { application_name: 'ample-crane migrate', Client: HeldClient }),
  );
  await source.initialize();
  const runner = source.createQueryRunner();
  try {
    await runner.query('SELECT pg_advisory_lock($1)', [MIGRATION_LOCK]);
    return (await source.runMigrations({ transaction: 'each' })).map((migration) => migration.name);
  } finally {
    // The lock goes with the connection.
    await runner.release();
    await source.destroy();
  }
}
