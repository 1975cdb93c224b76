import { billed, withUsual, type KitPart } from '@ample-crane/core';
import { BILLS } from './tarrow-kits.ts';
import { OPTION_BOOKS } from './tarrow-orders.ts';

/** What the kit of an instrument takes that is built as usual. */
export function usualKit(model: string): KitPart[] {
  const bill = BILLS.find((one) => one.model === model);
  const book = OPTION_BOOKS.find((one) => one.model === model);
  if (!bill || !book) throw new Error(`usualKit: Tarrow Works has no bill for ${model}`);
  return billed(bill, withUsual(book, {})).map(({ slot, part, quantity }) => ({ slot, part, quantity }));
}
