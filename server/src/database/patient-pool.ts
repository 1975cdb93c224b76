import pg from 'pg';
import { heard, Unheard } from './heard.ts';

/** Nobody waits longer for one that others hold. */
const FREE_WITHIN_MS = 3_000;

type Got = (
  error: Error | undefined,
  client: pg.PoolClient | undefined,
  release: (broken?: Error | boolean) => void,
) => void;

/**
 * A pool that does not take its own process for a database that is away. The usual one counts by timers, which ring while the
 * process is busy and has not yet read that a connection is free. Its clients see to it themselves that they are connected in time.
 */
export class PatientPool extends pg.Pool {
  constructor(config?: pg.PoolConfig) {
    super({ ...config, connectionTimeoutMillis: 0 });
  }

  override connect(): Promise<pg.PoolClient>;
  override connect(got: Got): void;
  override connect(got?: Got): Promise<pg.PoolClient> | undefined {
    // One that is made for it sees to it itself that it is connected in time.
    const made = this.totalCount < this.options.max;
    const client =
      made || this.idleCount > this.waitingCount ? super.connect() : this.waitedFor(super.connect());
    if (!got) return client;
    client.then(
      (one) => got(undefined, one, (broken) => one.release(broken)),
      (error: Error) => got(error, undefined, () => undefined),
    );
    return undefined;
  }

  private async waitedFor(client: Promise<pg.PoolClient>): Promise<pg.PoolClient> {
    try {
      return await heard(client, FREE_WITHIN_MS);
    } catch (error) {
      if (!(error instanceof Unheard)) throw error;
      // It may come yet: then it is free for the next.
      client.then(
        (late) => late.release(),
        () => undefined,
      );
      throw new Error('timeout exceeded when trying to connect: no connection was free', { cause: error });
    }
  }
}
