import type { EntryBody } from '@ample-crane/core';
import type { Observable } from 'rxjs';
import { AnswersKept } from './answers-kept.ts';
import type { LiveNews } from './live.service.ts';

/** Time alone makes anything old after this long; on a slow machine a look takes seconds, which nobody waits for at once. */
const LASTING = { freshMs: 20_000, graceMs: 20_000, patienceMs: 5_000 };

type Concerns = (news: LiveNews) => boolean;

/** Filings of which at least one entry is not of these types. */
export const otherThan =
  (...types: EntryBody['type'][]): Concerns =>
  (news) =>
    news.types === undefined || news.types.some((type) => !types.some((one) => one === type));

/** Filings of which at least one entry is of these types. */
export const oneOf =
  (...types: EntryBody['type'][]): Concerns =>
  (news) =>
    news.types === undefined || types.some((type) => news.types?.includes(type));

/** What is costly to work out: once for all who look, and anew after any filing that concerns it. */
export class Kept<T> {
  private readonly kept = new AnswersKept(LASTING);

  /** @param concerns which news; left out: all. What names no code concerns everybody. */
  constructor(
    private readonly look: () => Promise<T>,
    news: Observable<LiveNews>,
    concerns: Concerns = () => true,
  ) {
    news.subscribe((one) => {
      if (one.batches.length === 0 || concerns(one)) this.forget();
    });
  }

  get(): Promise<T> {
    return this.kept.get('look', this.look);
  }

  /** What is kept is no longer true. */
  forget(): void {
    this.kept.forget();
  }
}
