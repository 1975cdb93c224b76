import { setTimeout as pause } from 'node:timers/promises';
import { Semaphore } from 'async-mutex';
import { failureOf } from '../database/failure.ts';

/** Longer than this nobody waits for others of this server who get nothing done. */
const WAIT_MS = 8000;

/** Somebody else of this server is at it for too long: known by the code the database says it with. */
class Busy extends Error {
  readonly code = '55P03';
}

/** A place where so many work at once, the others in a queue. */
class Turn {
  /** So many want it, or have it. */
  wanted = 0;
  private readonly gate: Semaphore;
  /** When somebody last got something done in it. */
  private movedMs = 0;

  constructor(
    atOnce: number,
    private readonly name: string,
    private readonly waitMs: number,
  ) {
    this.gate = new Semaphore(atOnce);
  }

  async take<T>(work: () => Promise<T>): Promise<T> {
    this.wanted += 1;
    try {
      const leave = await this.acquired();
      try {
        const done = await work();
        this.movedMs = Date.now();
        return done;
      } catch (error) {
        // What the rules refuse is done with, too; what waited in vain is not.
        if (failureOf(error) !== 'busy') this.movedMs = Date.now();
        throw error;
      } finally {
        leave();
      }
    } finally {
      this.wanted -= 1;
    }
  }

  /** Waits for as long as others get something done. */
  private async acquired(): Promise<() => void> {
    const sinceMs = Date.now();
    if (!this.gate.isLocked()) return (await this.gate.acquire())[1];
    const ticket = this.gate.acquire();
    const leftMs = (): number => Math.max(sinceMs, this.movedMs) + this.waitMs - Date.now();
    while (leftMs() > 0) {
      const got = await Promise.race([ticket, pause(leftMs(), null, { ref: false })]);
      if (got) return got[1];
    }
    // Its place in the queue passes on when it comes up.
    void ticket.then(([, leave]) => leave());
    throw new Busy(`others are at work on ${this.name}`);
  }
}

/**
 * Filings of this server on the same batch go one after the other, and no more at once than there is room for, without holding a
 * connection while they wait: a row somebody holds takes one connection of the pool, not all, and a rush of filings is a queue,
 * not a database that is away.
 */
export class Turns {
  private readonly turns = new Map<string, Turn>();
  private readonly room: Turn;

  /** @param atOnce so many work at the same time. @param waitMs longer nobody waits while nothing moves. */
  constructor(
    atOnce: number,
    private readonly waitMs = WAIT_MS,
  ) {
    this.room = new Turn(atOnce, 'other filings', waitMs);
  }

  /**
   * Does `work` when nobody else of this server is at any of these batches.
   * @throws Error of code 55P03 when nobody there gets anything done for too long.
   */
  async take<T>(codes: readonly string[], work: () => Promise<T>): Promise<T> {
    // In order of code, so that two never wait for each other.
    const [first, ...rest] = [...new Set(codes)].toSorted();
    if (first === undefined) return this.room.take(work);
    const turn = this.turns.get(first) ?? new Turn(1, first, this.waitMs);
    this.turns.set(first, turn);
    try {
      return await turn.take(() => this.take(rest, work));
    } finally {
      if (turn.wanted === 0) this.turns.delete(first);
    }
  }
}
