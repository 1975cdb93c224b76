import { count } from '../ledger/index.ts';
import { summarise } from '../stats/descriptive.ts';
import type { LotBody } from './lot-entry.ts';

/** What an entry did to a lot, in a few words. */
export function lotWords(body: LotBody): string {
  switch (body.type) {
    case 'receive':
      return `received ${count(body.boards.length, 'board')} of ${body.species}, ${body.thicknessMm} mm`;
    case 'papers':
      return `papers noted: ${body.reference}`;
    case 'lot-read':
      return `${count(body.readings.length, 'reading')} at the ${body.depth}, mean ${summarise(body.readings.map((r) => r.readingPct)).mean.toFixed(2)} % as shown`;
    case 'move':
      return `moved to ${body.room}`;
    case 'sort':
      return `sorted ${count(body.boards.length, 'board')}`;
    case 'to-cut':
      return `${count(body.boards.length, 'board')} sent to cut${body.because ? ` because ${body.because}` : ''}`;
    case 'cut':
      return `cut board ${body.board} into ${body.matched ? 'a matched pair' : count(body.blanks.length, 'blank')}`;
    case 'weigh':
      return `${body.blank} weighs ${body.weightKg} kg`;
    case 'take':
      return `took ${count(body.blanks.length, 'blank')} for ${body.batch}${body.because ? ` because ${body.because}` : ''}`;
    case 'give-back':
      return `gave ${count(body.blanks.length, 'blank')} back`;
    case 'lot-scrap':
      return `scrapped ${[...body.boards.map((b) => `board ${b}`), ...body.blanks].join(', ')}: ${body.reason}`;
    case 'undo':
      return `took back ${count(body.voids.length, 'entry', 'entries')}: ${body.voids.join(', ')}`;
  }
}
