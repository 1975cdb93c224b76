import type { Route } from '../route/index.ts';
import type { AskedSchema } from './asked.ts';
import type { BatchState } from './batch.ts';
import type { AnyBody, Entry } from './entry.ts';
import type { LineGrammar } from './line-grammar.ts';
import type { Effect, Outcome } from './step.ts';

/**
 * Everything that is known of one kind of entry. It stands in a file of its own, in the room of its subject; `entries/kinds.ts`
 * lists them all, and the reducer, the log line, the words and the requests of the server come out of that list.
 */
export interface Kind<Body extends AnyBody> {
  readonly type: Body['type'];
  /**
   * What a batch becomes by it, or why it is refused. Pure. `entry.body` is `body`. Left out where there is no batch yet, or
   * where more than the batch is needed: the reducer and replay know these few themselves.
   */
  readonly apply?: (state: BatchState, route: Route, entry: Entry, body: Body) => Outcome;
  /** What it did to so many pieces, in a few words: '6 done', '4 readings, mean 7.95 %'. */
  readonly words: (body: Body, pieces: number) => string;
  /** What was measured against its limits, said where it was filed; undefined: there are none. */
  readonly verdict?: (route: Route, body: Body, effect: Effect) => string | undefined;
}

/** A kind that can be filed by itself; what is asked may be less, or other, than the body the server makes of it. */
export interface FiledKind<
  Body extends AnyBody,
  Asked extends AnyBody = Omit<Body, 'facts'> & AnyBody,
> extends Kind<Body> {
  readonly asked: AskedSchema<Asked>;
  /** How it is said on the log line; left out: it is not. */
  readonly line?: LineGrammar<Asked>;
}
