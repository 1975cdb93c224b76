import { heard, Unheard } from '../database/heard.ts';

/** How long an answer holds, and how long somebody waits for what somebody else has asked, before it is asked anew. */
export interface Lasting {
  freshMs: number;
  patienceMs: number;
  /** So long after that the old answer is still given while it is asked anew; left out: not at all. */
  graceMs?: number;
}

interface Asked {
  sinceMs: number;
  answered: boolean;
  /** No answer came though this process listened for long enough. */
  silent: boolean;
  value: Promise<unknown>;
  /** The answer before it, for as long as this one is awaited. */
  meanwhile: Promise<unknown> | null;
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
    const ageMs = known ? Date.now() - known.sinceMs : Infinity;
    if (known && (known.answered ? ageMs < this.lasting.freshMs : !known.silent))
      return (known.answered ? known.value : (known.meanwhile ?? known.value)) as Promise<T>;
    const { freshMs, graceMs = 0 } = this.lasting;
    const meanwhile = known?.answered && ageMs < freshMs + graceMs ? known.value : null;
    const value = ask();
    const asked: Asked = { sinceMs: Date.now(), answered: false, silent: false, value, meanwhile };
    heard(value, this.lasting.patienceMs).catch((error) => (asked.silent = error instanceof Unheard));
    value.then(
      () => (asked.answered = true),
      () => this.kept.get(name) === asked && this.kept.delete(name),
    );
    this.kept.set(name, asked);
    return (meanwhile ?? value) as Promise<T>;
  }

  /** What is kept is no longer true. */
  forget(): void {
    this.kept.clear();
  }
}
