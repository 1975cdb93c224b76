import { count } from '../ledger/index.ts';
import type { OrderBody } from './order-entry.ts';

const pieces = (lines: readonly { quantity: number }[]): number =>
  lines.reduce((sum, { quantity }) => sum + quantity, 0);

/** What an entry did to an order, in a few words. */
export function orderWords(body: OrderBody): string {
  switch (body.type) {
    case 'order':
      return `${count(pieces(body.lines), 'piece')} ordered ${body.customer === null ? 'for stock' : `for ${body.customer}`}`;
    case 'order-add':
      return `${body.line.quantity} × ${body.line.model} added`;
    case 'order-change':
      return `line ${body.line} changed because ${body.because}`;
    case 'order-due':
      return `due another day because ${body.because}`;
    case 'order-cancel':
      return `${body.line === null ? 'all of it' : `line ${body.line}`} cancelled because ${body.because}`;
    case 'undo':
      return `took back ${count(body.voids.length, 'entry', 'entries')}: ${body.voids.join(', ')}`;
  }
}
