import { E_TIMEOUT, Mutex, withTimeout } from 'async-mutex';

/** Longer than this nobody waits for others of this server to be done with the same batch. */
const WAIT_MS = 8000;

/** Somebody else of this server is at it for too long: known by the code the database says it with. */
class Busy extends Error {
  readonly code = '55P03';
}

/**
 * Filings of this server on the same batch go one after the other without holding a connection while they wait: a row somebody
 * holds takes one connection of the pool, not all, so that only that batch waits.
 */
export class Turns {
  private readonly turns = new Map<string, { mutex: Mutex; wanted: number }>();

  /**
   * Does `work` when nobody else of this server is at any of these batches.
   * @throws Error of code 55P03 when that takes too long.
   */
  async take<T>(codes: readonly string[], work: () => Promise<T>): Promise<T> {
    // In order of code, so that two never wait for each other.
    const [first, ...rest] = [...new Set(codes)].toSorted();
    if (first === undefined) return work();
    const turn = this.turns.get(first) ?? { mutex: new Mutex(), wanted: 0 };
    this.turns.set(first, turn);
    turn.wanted += 1;
    try {
      return await withTimeout(turn.mutex, WAIT_MS).runExclusive(() => this.take(rest, work));
    } catch (error) {
      throw error === E_TIMEOUT ? new Busy(`others are at work on ${first}`) : error;
    } finally {
      turn.wanted -= 1;
      if (turn.wanted === 0) this.turns.delete(first);
    }
  }
}
