import type { Socket } from 'node:net';
import pg from 'pg';
import { heard, Unheard } from './heard.ts';

/**
 * A statement ends within STATEMENT_LIMIT_MS at the server; a connection that is silent for longer is dead, though the network
 * has not said so: it swallows what is sent.
 */
export const STATEMENT_LIMIT_MS = 15_000;
const SILENT_MS = STATEMENT_LIMIT_MS + 5_000;
/**
 * Nobody waits longer for a new connection: then the database is not answering. On a machine whose cores are taken PostgreSQL may
 * want seconds to begin a process for it, and asking again helps nobody.
 */
export const CONNECTED_WITHIN_MS = 6_000;

/** As pg's own types have it. */
type Told = ((error: Error) => void) | ((error: null, client: pg.Client) => void);

const open = new Set<WatchedClient>();

/**
 * A connection that may be lost at any moment. Pool and query runners listen for that only while each holds it; when it is lost
 * on its way from one to the other nobody would, and the whole server would end. What is asked on it fails all the same.
 */
export class HeldClient extends pg.Client {
  constructor(config?: string | pg.ClientConfig) {
    super(config);
    this.on('error', () => undefined);
  }

  protected get stream(): Socket {
    return (this as unknown as { connection: { stream: Socket } }).connection.stream;
  }

  override connect(): Promise<pg.Client>;
  override connect(told: Told): void;
  override connect(told?: Told): unknown {
    const connected = this.connectedInTime();
    if (!told) return connected;
    const tell = told as (error: Error | null, client?: pg.Client) => void;
    connected.then(
      () => tell(null, this),
      (error: Error) => tell(error),
    );
    return undefined;
  }

  private async connectedInTime(): Promise<pg.Client> {
    try {
      return await heard(super.connect(), CONNECTED_WITHIN_MS);
    } catch (error) {
      if (!(error instanceof Unheard)) throw error;
      this.drop();
      throw new Error('timeout exceeded when trying to connect', { cause: error });
    }
  }

  /** Without a farewell, which a network that swallows it would never let arrive. What it was asked fails at once. */
  drop(): void {
    this.stream.destroy();
  }
}

/** A connection of the pool that is given up when the network swallows it. */
export class WatchedClient extends HeldClient {
  constructor(config?: string | pg.ClientConfig) {
    super(config);
    open.add(this);
    this.once('end', () => open.delete(this));
    this.stream.setTimeout(SILENT_MS, () => this.giveUp());
  }

  /** The pool makes a new one when one is wanted. */
  giveUp(): void {
    open.delete(this);
    this.drop();
  }
}

/** Gives up all connections of this process: the database does not answer on any. */
export function giveUpAll(): void {
  for (const client of open) client.giveUp();
}
