import type { MetricUnit } from '../units/chosen.ts';
import type { AnyBody, Selection } from './entry.ts';

/** A word of a line, and where it stands in it. */
export interface Word {
  /** As it is understood: spelt as here, lower case kept for reasons. */
  text: string;
  start: number;
  length: number;
}

/** The word that says what was done. */
export interface SaidVerb extends Word {
  /** The verb it stands for. */
  verb: string;
  /** 'third coat': 3. */
  ordinal?: number;
}

/** One of the things a line may mean: in words, and what would be said instead; `batch`: what is added to the batch's code. */
export interface Choice {
  words: string;
  say: string;
  batch?: string;
}

/** The words of a line behind its verb, as the grammar of a kind reads them. What cannot be read leaves the parser. */
export interface LineWords {
  /** The next word, in lower case; `ahead` of it, so many further. Undefined behind the end. */
  word(ahead?: number): string | undefined;
  take(): Word;
  /** One word that names something, `what` it is if it is missing; in lower case. */
  name(verb: Word, what: string): string;
  /** A number that must follow. Where it is measured it may be said in another unit (`0.18in`); it comes in this one. */
  numberAfter(verb: Word, unit?: MetricUnit): number;
  /** A number that belongs to no verb behind it, in its unit. */
  loneNumber(unit: MetricUnit): number | undefined;
  /** The next number is a length by its own sign (`55.9mm`, `3/32"`). */
  isLength(): boolean;
  /** How many pieces, where the next word says so and belongs to no verb behind it. */
  pieces(): number | undefined;
  /** Numbers, at least one; where they are measured, in their unit. */
  values(verb: Word, what: string, unit?: MetricUnit): number[];
  /** 'ok', 'yes yes no': what is looked at, not measured; 1 and 0. */
  answers(): number[] | undefined;
  oneOf<T extends string>(verb: Word, one: T, other: T): T;
  /** The floor's own words, up to the next thing that was done. */
  reason(verb: Word): string;
  /** 'because …', to the end. */
  because(): { because?: string };
  /** `by tamsin`: who did it, when somebody else files it. */
  worker(): { who?: string };
  /** The other batch of a join. */
  partner(verb: Word): string;
  /** The line could mean two things: both are offered, as the lines that say them. */
  ask(verb: Word, number: Word, message: string, choices: readonly Choice[]): never;
}

/** How one kind of entry is said on the log line. */
export interface LineGrammar<Asked extends AnyBody = AnyBody> {
  /** Its verbs, each with the floor's other words for it, endings included. */
  readonly verbs: Readonly<Record<string, readonly string[]>>;
  /** What a number behind the verb is: 'own', not a count; a function asks which one was meant. Left out: so many pieces. */
  readonly number?: 'own' | ((line: LineWords, verb: Word, number: Word, count: number) => never);
  /** What follows are the floor's own words. */
  readonly reasoned?: true;
  /** Its verb, as it stands, ends such words; all others may be part of what went wrong ('planed by hand'). */
  readonly endsReason?: true;
  /** 'third' before the verb says which one. */
  readonly ordinal?: true;
  /** What else is said behind the verb; `told`: the pieces, as far as they were said. Left out: nothing. */
  readonly take?: (
    line: LineWords,
    verb: SaidVerb,
    told: Selection,
  ) => Omit<Asked, 'type' | 'operation' | 'station' | 'pieces'>;
}
