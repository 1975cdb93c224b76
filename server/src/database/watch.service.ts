import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { databaseAddress } from './data-source.ts';
import { heard } from './heard.ts';
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
  private client: HeldClient | undefined;
  private timer: NodeJS.Timeout | undefined;
  private missed = 0;
  private stopped = false;

  onApplicationBootstrap(): void {
    this.next();
  }

  /** False: it is away, and connections to it were given up. One answer that came late is a busy machine. */
  get answers(): boolean {
    return this.missed < MISSED;
  }

  private next(): void {
    this.timer = setTimeout(() => void this.ask().finally(() => !this.stopped && this.next()), ASK_EVERY_MS);
    this.timer.unref();
  }

  private async ask(): Promise<void> {
    try {
      const client = this.client ?? (await connected());
      // Stopped while it was being connected: nobody else would ever end it, and the process would not either.
      if (this.stopped) return client.drop();
      this.client = client;
      await heard(client.query('SELECT 1'), ANSWER_WITHIN_MS);
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
    this.client?.drop();
    this.client = undefined;
  }

  beforeApplicationShutdown(): void {
    this.stopped = true;
    clearTimeout(this.timer);
    this.letGo();
  }
}

async function connected(): Promise<HeldClient> {
  const client = new HeldClient({
    connectionString: databaseAddress(),
    application_name: 'ample-crane watch',
  });
  try {
    await heard(client.connect(), ANSWER_WITHIN_MS);
    return client;
  } catch (error) {
    client.drop();
    throw error;
  }
}
