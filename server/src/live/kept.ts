import type { Observable } from 'rxjs';
import type { LiveNews } from './live.service.ts';

/** Time alone makes anything old after this long. */
const FRESH_MS = 20_000;

/** What is costly to work out: once for all who look, and anew after any filing that concerns it. */
export class Kept<T> {
  private kept: { untilMs: number; value: Promise<T> } | undefined;

  /** @param concerns which of the codes that news name; left out: all. News that names none concerns everybody. */
  constructor(
    private readonly look: () => Promise<T>,
    news: Observable<LiveNews>,
    concerns: (code: string) => boolean = () => true,
  ) {
    news.subscribe(({ batches }) => {
      if (batches.length === 0 || batches.some(concerns)) this.forget();
    });
  }

  get(): Promise<T> {
    if (this.kept && this.kept.untilMs > Date.now()) return this.kept.value;
    const value = this.look();
    const kept = { untilMs: Date.now() + FRESH_MS, value };
    value.catch(() => {
      if (this.kept === kept) this.kept = undefined;
    });
    this.kept = kept;
    return value;
  }

  /** What is kept is no longer true. */
  forget(): void {
    this.kept = undefined;
  }
}
