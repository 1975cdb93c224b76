import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import type pg from 'pg';
import { databaseAddress } from './data-source.ts';
import { giveUpAll, HeldClient } from './watched-client.ts';

const ASK_EVERY_MS = 2000;
const ANSWER_WITHIN_MS = 2000;
/** So many questions without an answer, and it is away. */
const MISSED = 2;

/**
 * Asks the database the simplest question there is, every two seconds, on a connection of its own. A network that swallows what
 * is sent is noticed so within some six seconds; the connections that wait on it are given up, so that nobody else waits.
 */
@Injectable()
export class DatabaseWatch implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('database');
  private client: pg.Client | undefined;
  private timer: NodeJS.Timeout | undefined;
  private missed = 0;
  private stopped = false;

  onApplicationBootstrap(): void {
    this.next();
  }

  /** Whether it answered when it was last asked. */
  get answers(): boolean {
    return this.missed === 0;
  }

  private next(): void {
    this.timer = setTimeout(() => void this.ask().finally(() => !this.stopped && this.next()), ASK_EVERY_MS);
    this.timer.unref();
  }

  private async ask(): Promise<void> {
    try {
      const client = this.client ?? (await connected());
      // Stopped while it was being connected: nobody else would ever end it, and the process would not either.
      if (this.stopped) return void client.end().catch(() => undefined);
      this.client = client;
      await client.query('SELECT 1');
      if (this.missed >= MISSED) this.logger.log('the database answers again');
      this.missed = 0;
    } catch (error) {
      this.letGo();
      this.missed += 1;
      if (this.missed !== MISSED) return;
      this.logger.warn(`the database does not answer: ${(error as Error).message}`);
      giveUpAll();
    }
  }

  private letGo(): void {
    const { client } = this;
    this.client = undefined;
    client?.end().catch(() => undefined);
  }

  beforeApplicationShutdown(): void {
    this.stopped = true;
    clearTimeout(this.timer);
    this.letGo();
  }
}

async function connected(): Promise<pg.Client> {
  const client = new HeldClient({
    connectionString: databaseAddress(),
    application_name: 'ample-crane watch',
    connectionTimeoutMillis: ANSWER_WITHIN_MS,
    query_timeout: ANSWER_WITHIN_MS,
  });
  await client.connect();
  return client;
}
