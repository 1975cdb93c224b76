import { FILED_KINDS } from '../entries/index.ts';
import type { LineGrammar } from '../ledger/index.ts';

/** The kinds that can be said on a line. */
const SAID = FILED_KINDS.flatMap(({ type, line }) => (line ? [{ type, line }] : []));

/** A verb, and the kind of entry it files. */
export interface Verb {
  verb: string;
  type: string;
  line: LineGrammar;
}

const VERB_OF: ReadonlyMap<string, Verb> = new Map(
  SAID.flatMap(({ type, line }) =>
    Object.entries(line.verbs).flatMap(([verb, others]) =>
      [verb, ...others].map((word) => [word, { verb, type, line }] as const),
    ),
  ),
);

/** What can be said of a batch. */
export const VERBS: readonly string[] = SAID.flatMap(({ line }) => Object.keys(line.verbs));

/** The verb a word stands for; undefined: it is none. */
export const verbOf = (word: string | undefined): Verb | undefined =>
  word === undefined ? undefined : VERB_OF.get(word.toLowerCase());

/** Whether a word, as it stands, ends a reason. */
export const endsReason = (word: string | undefined): boolean => {
  const verb = verbOf(word);
  return verb?.verb === word && verb?.line.endsReason === true;
};

/** Every word that is a verb or stands for one. */
export const VERB_WORDS: readonly string[] = [...VERB_OF.keys()];

/** Two words that are said for one. */
export const PHRASES: readonly (readonly [string, string, string])[] = [
  ['sent', 'back', 'sent-back'],
  ['send', 'back', 'send-back'],
  ['on', 'hold', 'on-hold'],
  ['end', 'hold', 'end-hold'],
  ['hold', 'ended', 'end-hold'],
  ['hold', 'ends', 'end-hold'],
  ['hold', 'over', 'end-hold'],
  ['take', 'back', 'take-back'],
];

/** What goes wrong with wood and lacquer: said alone, it sends the piece to where such things go (DOMAIN §5). */
export const DEFECTS: readonly string[] = [
  'blush',
  'run',
  'dry spray',
  'orange peel',
  'fish-eye',
  'dust',
  'hair',
  'sand-through',
  'scrape slip',
  'colour off',
  'sink-back',
  'check unintended',
  'chip',
];

/** Spellings and numbers as words. */
export const SPELLINGS: Readonly<Record<string, string>> = {
  ...{
    color: 'colour',
    colored: 'coloured',
    mold: 'mould',
    fisheye: 'fish-eye',
    sandthrough: 'sand-through',
  },
  ...{ one: '1', two: '2', three: '3', four: '4', five: '5', six: '6', seven: '7', eight: '8' },
  ...{ nine: '9', ten: '10', eleven: '11', twelve: '12' },
};

/** Words that mean nothing between the others. */
export const FILLERS: ReadonlySet<string> = new Set([
  'the',
  'of',
  'a',
  'an',
  'at',
  'in',
  'on',
  'for',
  'and',
  'is',
  'are',
  'has',
  'was',
  'were',
]);
/** Behind a number: so many of them. */
export const PIECES: ReadonlySet<string> = new Set(['pcs', 'pieces', 'pc', 'off']);
/** Before a number: which one. */
export const PLACE_WORDS: ReadonlySet<string> = new Set([
  'piece',
  'pieces',
  'place',
  'places',
  'no',
  'nr',
  '#',
]);
