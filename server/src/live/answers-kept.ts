import { heard, Unheard } from '../database/heard.ts';

/** How long an answer holds, and how long somebody waits for what somebody else has asked, before it is asked anew. */
export interface Lasting {
  freshMs: number;
  patienceMs: number;
}

interface Asked {
  sinceMs: number;
  answered: boolean;
  /** No answer came though this process listened for long enough. */
  silent: boolean;
  value: Promise<unknown>;
}

/**
 * Answers that hold for a time, by name: each is asked once for all who want it. What failed is not kept, and a question that gets
 * no answer (its connection may be dead, which only time tells) does not keep others waiting for it.
 */
export class AnswersKept {
  private readonly kept = new Map<string, Asked>();

  constructor(private readonly lasting: Lasting) {}

  get<T>(name: string, ask: () => Promise<T>): Promise<T> {
    const known = this.kept.get(name);
    const fresh = known && Date.now() - known.sinceMs < this.lasting.freshMs;
    if (known && (known.answered ? fresh : !known.silent)) return known.value as Promise<T>;
    const value = ask();
    const asked: Asked = { sinceMs: Date.now(), answered: false, silent: false, value };
    heard(value, this.lasting.patienceMs).catch((error) => (asked.silent = error instanceof Unheard));
    value.then(
      () => (asked.answered = true),
      () => this.kept.get(name) === asked && this.kept.delete(name),
    );
    this.kept.set(name, asked);
    return value;
  }

  /** What is kept is no longer true. */
  forget(): void {
    this.kept.clear();
  }
}
