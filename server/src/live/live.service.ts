import { randomUUID } from 'node:crypto';
import { Injectable, Logger, type BeforeApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { defer, finalize, Subject, type Observable } from 'rxjs';
import { databaseAddress } from '../database/data-source.ts';
import { heard } from '../database/heard.ts';
import { WatchedClient } from '../database/watched-client.ts';
import { LIVE_CHANNEL } from './tell.ts';

/** What a browser is told: which batches changed. An empty list means: anything may have. */
export interface LiveNews {
  batches: string[];
  /** Of the entries that changed them; absent: it was something else than a filing on racks. */
  types?: string[];
}

const RECONNECT_MS = 1000;
/** A line on which nothing is said may be dead: it is asked this often. */
const ASK_EVERY_MS = 5000;
const ANSWER_WITHIN_MS = 2500;

/** Hears of every filing on the database, whichever server made it, and passes it on to this server's browsers. */
@Injectable()
export class LiveService implements OnModuleInit, BeforeApplicationShutdown {
  private readonly logger = new Logger('live');
  private readonly subject = new Subject<LiveNews>();
  private client: WatchedClient | undefined;
  /** The same once it listens, and everybody was told that anything may have changed before. */
  private hearing: WatchedClient | undefined;
  private asking: NodeJS.Timeout | undefined;
  private stopped = false;
  private listeners = 0;
  /** A channel of this server's own, and the words it waits for on it. */
  private readonly own = `${LIVE_CHANNEL}_${randomUUID().replaceAll('-', '')}`;
  private readonly awaited = new Map<string, () => void>();

  /**
   * Whether everything that was filed before now has been told here: what is kept of the log is then as new as the log. PostgreSQL tells in
   * the order in which transactions ended, so that a word to oneself comes after all of it. False: this server hears nothing at present.
   */
  async caughtUp(): Promise<boolean> {
    const client = this.hearing;
    if (!client) return false;
    const word = randomUUID();
    try {
      const back = new Promise<void>((resolve) => this.awaited.set(word, resolve));
      await heard(client.query('SELECT pg_notify($1, $2)', [this.own, word]), ANSWER_WITHIN_MS);
      await heard(back, ANSWER_WITHIN_MS);
      return this.hearing === client;
    } catch {
      return false;
    } finally {
      this.awaited.delete(word);
    }
  }

  /** Whether a browser listens: a page is open somewhere. */
  get isListenedTo(): boolean {
    return this.listeners > 0;
  }

  /** What a browser hears, until it goes away or this server ends. */
  toBrowser(): Observable<LiveNews> {
    return defer(() => {
      this.listeners += 1;
      return this.subject.pipe(finalize(() => (this.listeners -= 1)));
    });
  }

  get news(): Observable<LiveNews> {
    return this.subject.asObservable();
  }

  async onModuleInit(): Promise<void> {
    await this.listen();
  }

  private async listen(): Promise<void> {
    if (this.stopped) return;
    const client = new WatchedClient({
      connectionString: databaseAddress(),
      application_name: 'ample-crane live',
    });
    client.on('error', () => this.again(client));
    client.on('end', () => this.again(client));
    client.on('notification', ({ channel, payload }) => {
      if (channel === this.own) this.awaited.get(payload ?? '')?.();
      else this.subject.next(JSON.parse(payload ?? '{"batches":[]}') as LiveNews);
    });
    this.client = client;
    try {
      await client.connect();
      const listen = [LIVE_CHANNEL, this.own].map((channel) => `LISTEN ${channel}`);
      // A word to oneself need not be on disk.
      await heard(client.query(`SET synchronous_commit TO off; ${listen.join('; ')}`), ANSWER_WITHIN_MS);
      clearInterval(this.asking);
      this.asking = setInterval(() => {
        heard(client.query('SELECT 1'), ANSWER_WITHIN_MS).catch(() => this.again(client));
      }, ASK_EVERY_MS).unref();
      // What was filed while nobody listened is not known: browsers look at everything once.
      this.subject.next({ batches: [] });
      this.hearing = client;
    } catch (error) {
      this.logger.warn(`not listening: ${(error as Error).message}`);
      this.again(client);
    }
  }

  private again(client: WatchedClient): void {
    if (this.client !== client || this.stopped) return;
    this.client = undefined;
    this.hearing = undefined;
    clearInterval(this.asking);
    client.giveUp();
    setTimeout(() => void this.listen(), RECONNECT_MS).unref();
  }

  /** Ends the browsers' streams, so that the server can finish what it has accepted and close. */
  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    this.hearing = undefined;
    clearInterval(this.asking);
    this.subject.complete();
    await this.client?.end().catch(() => undefined);
  }
}
