/** What can be said of a batch; the same words are the types of filed entries. */
export const VERBS = [
  'start',
  'done',
  'scrap',
  'rework',
  'hold',
  'end',
  'read',
  'coat',
  'sand',
  'mark',
  'age',
  'measure',
  'place',
  'check',
  'plane',
  'shim',
  'join',
  'split',
  'ship',
  'undo',
] as const;
export type Verb = (typeof VERBS)[number];

/** The floor's own words for them, endings included. */
const SYNONYMS: Readonly<Record<Verb, readonly string[]>> = {
  start: ['started', 'starts', 'starting', 'begin', 'began', 'begun', 'take', 'took', 'taken'],
  done: ['finished', 'finish', 'finishes', 'complete', 'completed', 'buffed', 'polished'],
  scrap: ['scrapped', 'scraps', 'scrapping', 'lost', 'bin', 'binned'],
  rework: ['reworked', 'redo', 'sent-back', 'send-back', 'back'],
  hold: ['held', 'holds', 'stop', 'stopped', 'on-hold'],
  end: ['ended', 'ends', 'ending', 'end-hold', 'free', 'freed', 'release', 'released', 'releases'],
  read: ['reads', 'reading', 'readings', 'moisture', 'mc'],
  coat: ['coated', 'coats', 'spray', 'sprayed', 'laid'],
  sand: ['sanded', 'sands', 'sanding', 'scuff', 'scuffed'],
  mark: ['marked', 'marks', 'nail'],
  age: ['aged', 'freeze', 'frozen'],
  measure: ['measured', 'measures', 'action'],
  place: ['placed', 'puts', 'put', 'clamped'],
  check: ['checked', 'checks'],
  plane: ['planed', 'planes', 'planing'],
  shim: ['shimmed', 'shims'],
  join: ['joined', 'joins', 'glue', 'glued'],
  split: ['splits', 'parted', 'resawn'],
  ship: ['shipped', 'ships', 'send', 'sent', 'packed'],
  undo: ['undone', 'take-back', 'takeback', 'correct'],
};

const VERB_OF: ReadonlyMap<string, Verb> = new Map(
  VERBS.flatMap((verb) => [verb, ...SYNONYMS[verb]].map((word) => [word, verb] as const)),
);

/** The verb a word stands for; undefined: it is none. */
export const verbOf = (word: string | undefined): Verb | undefined =>
  word === undefined ? undefined : VERB_OF.get(word.toLowerCase());

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
