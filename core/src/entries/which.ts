import { count, type LineWords, type Word } from '../ledger/index.ts';

/** 'scrap 3': piece 3, or three pieces? */
export const whichOrHowMany = (line: LineWords, verb: Word, number: Word, n: number): never =>
  line.ask(verb, number, `${verb.text} ${n}: piece ${n}, or ${count(n, 'piece')}?`, [
    { words: count(n, 'piece'), say: `${n} ${verb.text}` },
    { words: `piece /${n}`, say: verb.text, batch: `/${n}` },
  ]);
