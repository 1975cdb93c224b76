import { parseLine, type LineAction, type Understood } from '../logline/parse.ts';
import type { Vocabulary } from '../logline/vocabulary.ts';

/** The floor as the table of docs/log.md speaks of it. */
export const FLOOR: Vocabulary = {
  batches: ['B-201', 'B-217', 'N-118', 'N-119', 'I-31', 'W-74'],
  stations: [
    { code: 'wood-room', name: 'Wood room' },
    { code: 'body-mill', name: 'Body mill' },
    { code: 'neck-mill', name: 'Neck mill' },
    { code: 'fret-bench', name: 'Fret bench' },
    { code: 'neck-fit', name: 'Neck fit' },
    { code: 'prep', name: 'Prep & seal' },
    { code: 'colour', name: 'Colour booth' },
    { code: 'clear', name: 'Clear booth' },
    { code: 'buff', name: 'Sand & buff' },
    { code: 'set-up', name: 'Set-up & final' },
    { code: 'packing', name: 'Packing' },
  ],
  operationsOf: (batch) =>
    batch.startsWith('B')
      ? [
          { key: 'dry', name: 'Rest & read' },
          { key: 'mill', name: 'Body mill' },
          { key: 'rest', name: 'Body rest' },
        ]
      : [{ key: 'final', name: 'Final inspection' }],
  people: [
    { code: 'tamsin', name: 'Tamsin Venn' },
    { code: 'greave', name: 'Odo Greave' },
    { code: 'oakes', name: 'Petra Oakes' },
    { code: 'odell', name: 'Odo Dell' },
  ],
};

const shown = (value: unknown): string => (Array.isArray(value) ? value.join(' ') : String(value));

const actionSaid = ({ type, ...rest }: LineAction): string =>
  [type, ...Object.entries(rest).map(([key, value]) => `${key} ${shown(value)}`)].join(', ');

function lineSaid({ batch, moment, actions, also = [] }: Understood): string {
  const when = !moment
    ? ''
    : 'minutesAgo' in moment
      ? ` (${moment.minutesAgo} min ago)`
      : ` (${moment.daysAgo > 0 ? 'yesterday ' : ''}${moment.clock})`;
  const one = `${batch ?? 'last'}: ${actions.map(actionSaid).join('; ')}${when}`;
  return [one, ...also.map(lineSaid)].join(' + ');
}

/** What a line means, as the table writes it: the entries it files, or what it says or asks instead. */
export function said(line: string): string {
  const parsed = parseLine(line, FLOOR);
  if ('understood' in parsed) return lineSaid(parsed.understood);
  const { message, choices = [] } = parsed.notUnderstood;
  const offered = choices.map(({ words, line: meant }) => `${words} = \`${meant}\``).join(' / ');
  return `? ${message}${offered ? ` ${offered}` : ''}`;
}
