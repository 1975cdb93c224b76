import { count } from '../ledger/index.ts';
import type { PartBody } from './part-entry.ts';

const signed = (n: number): string => (n > 0 ? `+${n}` : `−${-n}`);

/** What an entry did to a part, in a few words. */
export function partWords(body: PartBody): string {
  switch (body.type) {
    case 'part':
      return `${body.name} of ${body.supplier}`;
    case 'part-change':
      return `told anew: ${Object.keys(body)
        .filter((key) => key !== 'type')
        .join(', ')}`;
    case 'part-receive':
      return `${body.quantity} came in`;
    case 'part-count':
      return body.believed === undefined || body.believed === body.quantity
        ? `${body.quantity} counted`
        : `${body.quantity} counted, ${signed(body.quantity - body.believed)} against what was believed`;
    case 'part-adjust':
      return `${signed(body.quantity)} because ${body.because}`;
    case 'part-order':
      return `${body.quantity} ordered`;
    case 'part-expect':
      return body.expectedMs === null
        ? `purchase ${body.of} will not come because ${body.because}`
        : `purchase ${body.of} comes another day because ${body.because}`;
    case 'undo':
      return `took back ${count(body.voids.length, 'entry', 'entries')}: ${body.voids.join(', ')}`;
  }
}
