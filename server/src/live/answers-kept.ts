/** How long an answer holds, and how long somebody waits for what somebody else has asked, before it is asked anew. */
export interface Lasting {
  freshMs: number;
  patienceMs: number;
}

interface Asked {
  sinceMs: number;
  answered: boolean;
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
    const { freshMs, patienceMs } = this.lasting;
    if (known && Date.now() - known.sinceMs < (known.answered ? freshMs : patienceMs))
      return known.value as Promise<T>;
    const value = ask();
    const asked: Asked = { sinceMs: Date.now(), answered: false, value };
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
