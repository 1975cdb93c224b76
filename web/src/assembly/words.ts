import { count } from '@ample-crane/core';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type { BenchLine, Leaving } from './queries.ts';

/** What is done next with an instrument, in a word. */
export const NEXT: Record<BenchLine['verdict'], string> = {
  pass: 'may go on',
  measure: 'to read',
  adjust: 'to adjust',
  back: 'back to set-up',
  wait: 'settles',
};

export const TONE: Record<BenchLine['verdict'], VerdictTone> = {
  pass: 'good',
  measure: 'wait',
  adjust: 'bad',
  back: 'bad',
  wait: 'hold',
};

/** Where an instrument stands, as the page tells them apart. */
export const placeOf = ({
  settling,
  operationName,
}: Pick<BenchLine, 'settling' | 'operationName'>): string =>
  settling ? 'shelf' : /inspection/i.test(operationName) ? 'inspection' : 'bench';

/** 'I-180/08 has moved …: back to set-up. 4 are to be read, 3 may go on.' */
export function benchSentence(lines: readonly BenchLine[]): { tone: VerdictTone; sentence: string } {
  const of = (verdict: BenchLine['verdict']): BenchLine[] => lines.filter((line) => line.verdict === verdict);
  const [back, adjust, measure, pass] = [of('back'), of('adjust'), of('measure'), of('pass')];
  if (lines.length === 0) return { tone: 'good', sentence: 'Nothing is on the benches or on the shelf.' };
  const told = [
    back.length > 0 ? `${named(back)} moved on the shelf: back to set-up` : '',
    adjust.length > 0 ? `${named(adjust)} ${adjust.length === 1 ? 'is' : 'are'} outside limits` : '',
    measure.length > 0 ? `${count(measure.length, 'instrument')} to read` : '',
    pass.length > 0 ? `${count(pass.length, 'instrument')} may go on` : '',
  ].filter(Boolean);
  if (told.length === 0)
    return {
      tone: 'hold',
      sentence: `${count(lines.length, 'instrument')} settling, none is due for its second look.`,
    };
  return {
    tone: back.length + adjust.length > 0 ? 'bad' : measure.length > 0 ? 'wait' : 'good',
    sentence: `${told.join('; ')}.`,
  };
}

const MOST_NAMED = 3;

function named(lines: readonly { piece: string }[]): string {
  const first = lines.slice(0, MOST_NAMED).map(({ piece }) => piece);
  const more = lines.length - first.length;
  return `${first.join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}

/** '7 instruments may leave; I-180/03 may not: …' */
export function leavingSentence(lines: readonly Leaving[]): { tone: VerdictTone; sentence: string } {
  const stopped = lines.filter(({ against }) => against !== null);
  const free = lines.length - stopped.length;
  if (lines.length === 0) return { tone: 'hold', sentence: 'Nothing stands at shipping.' };
  const may = `${count(free, 'instrument')} may leave`;
  const [first] = stopped;
  if (!first) return { tone: 'good', sentence: `${may}.` };
  return {
    tone: 'wait',
    sentence: `${may}; ${named(stopped)} may not: ${first.against ?? ''}.`,
  };
}
