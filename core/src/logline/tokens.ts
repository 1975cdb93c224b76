import type { Word } from '../ledger/index.ts';
import { PHRASES, SPELLINGS } from './words.ts';

/** Longer than anything a person types or a scanner sends. */
export const LONGEST_LINE = 500;

export type Token = Word;

export interface NotUnderstood {
  /** Where in the line the trouble starts, and how long it is; length 0: something is missing at the end. */
  start: number;
  length: number;
  word: string;
  message: string;
  /** The lines it may mean, in words, where it may mean several. */
  choices?: { words: string; line: string }[];
}

/** Thrown inside the parser only, to leave it from any depth. */
export class Trouble extends Error {
  constructor(readonly at: NotUnderstood) {
    super(at.message);
  }
}

/** Numbers with points between commas are a list: '7.1,7.2'. Whole numbers and ranges stay together: '3,5,7-9'. */
const LIST_OF_DECIMALS = /^\d+\.\d+%?(,\d+(\.\d+)?%?)+$/;

/** The words of a line with where they stand; commas that only divide are gone. */
export function tokensOf(text: string): Token[] {
  if (text.length > LONGEST_LINE) {
    const message = `the line has ${text.length} characters, at most ${LONGEST_LINE} are read`;
    throw new Trouble({ start: LONGEST_LINE, length: text.length - LONGEST_LINE, word: '', message });
  }
  // eslint-disable-next-line no-control-regex -- control characters are exactly what is looked for
  const control = text.search(/[\u0000-\u0008\u000b-\u001f\u007f]/);
  if (control >= 0) {
    const message = `there is a control character at place ${control + 1}`;
    throw new Trouble({ start: control, length: 1, word: '', message });
  }
  const tokens = [...text.matchAll(/\S+/g)].flatMap((match) => divided(match[0], match.index));
  return joined(tokens);
}

function divided(word: string, start: number): Token[] {
  const bare = word.replace(/[,;]+$/, '');
  if (bare === '') return [];
  if (!LIST_OF_DECIMALS.test(bare)) return [spelt(bare, start)];
  let at = start;
  return bare.split(',').map((part) => {
    const token = spelt(part, at);
    at += part.length + 1;
    return token;
  });
}

const spelt = (word: string, start: number): Token => ({
  text: SPELLINGS[word.toLowerCase()] ?? word,
  start,
  length: word.length,
});

/** Two words said for one become one. */
function joined(tokens: readonly Token[]): Token[] {
  const out: Token[] = [];
  for (const token of tokens) {
    const before = out.at(-1);
    const phrase = PHRASES.find(
      ([one, two]) => before?.text.toLowerCase() === one && token.text.toLowerCase() === two,
    );
    if (phrase && before) {
      out[out.length - 1] = {
        text: phrase[2],
        start: before.start,
        length: token.start + token.length - before.start,
      };
    } else out.push(token);
  }
  return out;
}
