import type { FilingStore, Kept, Touched } from './store.ts';

/** What came of sending: an answer of the server, or none, and nothing is known. */
export type Answer =
  | { kind: 'filed'; status: number; body: unknown }
  | { kind: 'refused'; status: number; body: unknown; why: string }
  | { kind: 'away'; afterMs?: number };

export type Settled = Exclude<Answer, { kind: 'away' }>;

/** What the other tabs, and whoever watches, are told. */
export type News =
  | { what: 'changed' }
  /** The server did not answer: these filings stay here, and are sent again. */
  | { what: 'kept'; keys: string[] }
  | { what: 'settled'; kept: Kept; answer: Settled };

export interface Outside {
  store: FilingStore;
  /** Sends one filing, within a time limit of its own. Never throws. */
  send: (kept: Kept) => Promise<Answer>;
  /** Runs `work` while no other tab does. */
  alone: (work: () => Promise<void>) => Promise<void>;
  /** To the other tabs of this browser. */
  tell: (news: News) => void;
  later: (work: () => void, ms: number) => void;
}

const FIRST_PAUSE_MS = 1000;
const LONGEST_PAUSE_MS = 30_000;

/**
 * Every filing goes through here: it is kept in this browser before it is sent, sent in the order it was touched, by one tab,
 * again and again until the server answers. Sent twice under its key it is filed once. Only a refusal by the rules takes it
 * out of the row; its person then decides.
 */
export class Outbox {
  private readonly watchers = new Set<(news: News) => void>();
  /** Keys whose answer somebody on this page waits for. */
  private readonly awaited = new Map<string, ((answer: Settled) => void)[]>();
  private readonly whenKept = new Map<string, () => void>();
  private pumping = false;
  private again = false;
  private scheduled = false;
  private pauseMs = FIRST_PAUSE_MS;

  constructor(private readonly outside: Outside) {}

  watch(watcher: (news: News) => void): () => void {
    this.watchers.add(watcher);
    return () => void this.watchers.delete(watcher);
  }

  /** Keeps a filing and sends it in its turn; resolves when the server has answered. @throws when this browser cannot keep it. */
  async file(touched: Touched): Promise<Settled> {
    const { key } = touched;
    // Waited for before it is kept: another tab may send it at once.
    const before = this.awaited.get(key) ?? [];
    const answer = new Promise<Settled>((resolve) => this.awaited.set(key, [...before, resolve]));
    const kept = await this.outside.store.add(touched).catch((problem: unknown) => {
      this.awaited.set(key, before);
      throw problem;
    });
    if (kept.late) this.tellKept([key]);
    this.spread({ what: 'changed' });
    this.wake();
    return answer;
  }

  /** Calls once when the server does not answer for a key and its filing stays here; never, when it answers. */
  onKept(key: string, tell: () => void): void {
    this.whenKept.set(key, tell);
  }

  /** Filings that wait or were refused, in their order. */
  all(): Promise<Kept[]> {
    return this.outside.store.all();
  }

  /** Takes a refused filing out: its person dropped it, or filed it anew. */
  async remove(order: number): Promise<void> {
    await this.outside.store.remove(order);
    this.spread({ what: 'changed' });
  }

  /** Something happened that may have brought the server back: try at once. */
  wake(): void {
    this.pauseMs = FIRST_PAUSE_MS;
    void this.pump();
  }

  /** News of another tab: it may have sent what was filed here. */
  async hear(news: News): Promise<void> {
    if (news.what === 'settled') {
      const { kept, answer } = news;
      if (answer.kind === 'refused' && this.isToldAtOnce(kept)) await this.outside.store.remove(kept.order);
      this.settle(kept, answer);
    }
    if (news.what === 'kept') this.tellKept(news.keys);
    for (const watcher of this.watchers) watcher(news);
  }

  private async pump(): Promise<void> {
    this.again = true;
    if (this.pumping) return;
    this.pumping = true;
    try {
      while (this.again) {
        this.again = false;
        await this.outside.alone(() => this.drain());
      }
    } finally {
      this.pumping = false;
    }
  }

  private async drain(): Promise<void> {
    for (let kept = await this.outside.store.next(); kept; kept = await this.outside.store.next()) {
      const answer = await this.outside.send(kept);
      if (answer.kind === 'away') {
        await this.stay(kept, answer.afterMs);
        return;
      }
      this.pauseMs = FIRST_PAUSE_MS;
      await this.takeOut(kept, answer);
    }
  }

  private async stay(kept: Kept, afterMs = 0): Promise<void> {
    const keys = await this.outside.store.stay(kept.order);
    this.tellKept(keys);
    this.spread({ what: 'kept', keys });
    if (this.scheduled) return;
    this.scheduled = true;
    this.outside.later(
      () => {
        this.scheduled = false;
        void this.pump();
      },
      Math.max(this.pauseMs, afterMs),
    );
    this.pauseMs = Math.min(2 * this.pauseMs, LONGEST_PAUSE_MS);
  }

  /** What is filed is done with. What is refused is told where it was asked, at once; told late, it stays until somebody decides. */
  private async takeOut(kept: Kept, answer: Settled): Promise<void> {
    if (answer.kind === 'filed' || this.isToldAtOnce(kept)) await this.outside.store.remove(kept.order);
    else await this.outside.store.put({ ...kept, refused: answer.why });
    this.settle(kept, answer);
    this.spread({ what: 'settled', kept, answer });
  }

  private isToldAtOnce({ key, late }: Kept): boolean {
    return !late && (this.awaited.get(key) ?? []).length > 0;
  }

  private tellKept(keys: readonly string[]): void {
    for (const key of keys) {
      this.whenKept.get(key)?.();
      this.whenKept.delete(key);
    }
  }

  private settle(kept: Kept, answer: Settled): void {
    for (const resolve of this.awaited.get(kept.key) ?? []) resolve(answer);
    this.awaited.delete(kept.key);
    this.whenKept.delete(kept.key);
  }

  private spread(news: News): void {
    this.outside.tell(news);
    for (const watcher of this.watchers) watcher(news);
  }
}
