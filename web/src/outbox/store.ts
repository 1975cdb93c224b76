import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A filing as it was touched, before it was sent. */
export interface Touched {
  key: string;
  by: string;
  /** Where it goes: '/api/log/line'. */
  path: string;
  body: Record<string, unknown>;
  /** What it is, for the person: the line, or a few words. */
  words: string;
  /** By this device's clock. */
  touchedMs: number;
  /** Factory time less this device's clock, as far as it was known then. */
  offsetMs: number | null;
  /** Highest entry of each batch it names, as the person saw it. */
  seen: Record<string, number>;
}

/** A filing in the outbox: it waits for the server, or the rules refused it and its person must decide. */
export interface Kept extends Touched {
  /** Filings go in this order. */
  order: number;
  tries: number;
  /** It waited for a server that was away: what comes of it is told late, perhaps to nobody. */
  late: boolean;
  /** Why the rules refused it; null: it waits. */
  refused: string | null;
}

interface Schema extends DBSchema {
  filings: { key: number; value: Kept; indexes: { key: string } };
  lease: { key: string; value: { name: string; holder: string; untilMs: number } };
  floor: { key: string; value: unknown };
}

const NAME = 'ample-crane';
const VERSION = 1;

export type Database = IDBPDatabase<Schema>;

/** This browser's own store; it outlives the page and the browser. */
export const openStore = (name = NAME): Promise<Database> =>
  openDB<Schema>(name, VERSION, {
    upgrade(database) {
      const filings = database.createObjectStore('filings', { keyPath: 'order', autoIncrement: true });
      filings.createIndex('key', 'key', { unique: true });
      database.createObjectStore('lease', { keyPath: 'name' });
      database.createObjectStore('floor');
    },
    // A page of a later version wants to change the store: this one lets go of it.
    blocking: (_from, _to, event) => (event.target as IDBDatabase).close(),
  });

/** The filings of one browser, in the order they were touched. */
export class FilingStore {
  constructor(private readonly database: Database) {}

  /** Keeps a filing unless its key is kept already; gives what is kept under the key. */
  async add(touched: Touched): Promise<Kept> {
    const { store, done } = this.database.transaction('filings', 'readwrite', { durability: 'strict' });
    const known = await store.index('key').get(touched.key);
    if (known) return known;
    const row = (await store.getAll()).filter(({ refused }) => refused === null);
    const fresh = { ...touched, tries: 0, late: row.some(({ late }) => late), refused: null };
    const order = await store.add(fresh as Kept);
    await done;
    return { ...fresh, order };
  }

  all(): Promise<Kept[]> {
    return this.database.getAll('filings');
  }

  /** The one that is sent next: nothing overtakes. */
  async next(): Promise<Kept | undefined> {
    return (await this.all()).find(({ refused }) => refused === null);
  }

  put(kept: Kept): Promise<number> {
    return this.database.put('filings', kept);
  }

  /** The server is away: the one that was tried and all behind it wait. Gives their keys. */
  async stay(order: number): Promise<string[]> {
    const { store, done } = this.database.transaction('filings', 'readwrite');
    const row = (await store.getAll()).filter(({ refused }) => refused === null);
    for (const kept of row)
      await store.put({ ...kept, late: true, tries: kept.tries + (kept.order === order ? 1 : 0) });
    await done;
    return row.map(({ key }) => key);
  }

  remove(order: number): Promise<void> {
    return this.database.delete('filings', order);
  }

  /**
   * One sender across tabs where the browser has no locks (a page over plain HTTP): whoever holds the lease sends. Gives whether
   * `holder` has it now.
   */
  async lease(holder: string, nowMs: number, forMs: number): Promise<boolean> {
    const { store, done } = this.database.transaction('lease', 'readwrite');
    const held = await store.get(NAME);
    const mine = !held || held.holder === holder || held.untilMs < nowMs || held.untilMs > nowMs + 10 * forMs;
    if (mine) await store.put({ name: NAME, holder, untilMs: nowMs + forMs });
    await done;
    return mine;
  }

  async endLease(holder: string): Promise<void> {
    const { store, done } = this.database.transaction('lease', 'readwrite');
    if ((await store.get(NAME))?.holder === holder) await store.delete(NAME);
    await done;
  }
}
