import { heard } from '../database/heard.ts';

/** So long the next question waits for one that gets no answer; its connection may be dead, which only time tells. */
const PATIENCE_MS = 5_000;

interface Asked<T> {
  value: Promise<T>;
  /** Whoever asked while it was worked out: they wait for one that begins after their question. */
  next: Promise<T> | null;
}

/**
 * What many ask at the same moments, and what must not be older than their question: one at a time is worked out, for all who had
 * asked when it began. Ten browsers that hear of one filing have it worked out once or twice, not ten times.
 */
export class AskedTogether<T> {
  private asked: Asked<T> | null = null;

  constructor(private readonly look: () => Promise<T>) {}

  get(): Promise<T> {
    const { asked } = this;
    if (!asked) return this.begin();
    asked.next ??= over(asked.value).then(() => this.begin());
    return asked.next;
  }

  private begin(): Promise<T> {
    const value = this.look();
    const asked: Asked<T> = { value, next: null };
    this.asked = asked;
    void over(value).then(() => {
      if (this.asked === asked && !asked.next) this.asked = null;
    });
    return value;
  }
}

/** When it is answered or failed, or nothing was heard of it for too long; what failed is told to those who asked for it. */
const over = (value: Promise<unknown>): Promise<void> =>
  heard(value, PATIENCE_MS).then(
    () => undefined,
    () => undefined,
  );
