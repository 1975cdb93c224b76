import { count, type LineGrammar, type LineWords, type Word } from '../ledger/index.ts';

/** How a fault or a stop is said: its verb, then why, in the floor's own words. */
export const reasoned = (verbs: LineGrammar['verbs']): LineGrammar<{ type: string; reason: string }> => ({
  verbs,
  number: whichOrHowMany,
  reasoned: true,
  endsReason: true,
  take: (line, verb) => ({ reason: line.reason(verb) }),
});

/** 'scrap 3': piece 3, or three pieces? */
function whichOrHowMany(line: LineWords, verb: Word, number: Word, n: number): never {
  return line.ask(verb, number, `${verb.text} ${n}: piece ${n}, or ${count(n, 'piece')}?`, [
    { words: count(n, 'piece'), say: `${n} ${verb.text}` },
    { words: `piece /${n}`, say: verb.text, batch: `/${n}` },
  ]);
}
